export const DELIMITERS = [',', ';', '\t', '|'] as const;
export type Delimiter = (typeof DELIMITERS)[number];

/** The column that is put behind refused rows when they are handed back; it is not part of what a header is known by. */
export const REFUSED_BECAUSE = 'Refused because';

/** What a header is known by: its names in their order, whatever case and spaces they have. */
export function headerFingerprint(header: readonly string[]): string {
  return header
    .filter((name) => name !== REFUSED_BECAUSE)
    .map((name) =>
      name
        .trim()
        .toLowerCase()
        .replace(/[\s_-]+/g, ' '),
    )
    .join('|');
}

/** Whether a row says the header once more, as printed pages put one above another do. */
export function sameRow(fields: readonly string[], header: readonly string[]): boolean {
  // Nearly every row differs in its first cell already.
  if (fields.length !== header.length || fields[0]!.trim() !== header[0]!.trim()) return false;
  return fields.every((field, index) => field.trim() === header[index]!.trim());
}
