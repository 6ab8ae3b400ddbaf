/** Characters with which a spreadsheet would take a cell for a formula (and the two white spaces that hide one). */
const FORMULA_START = /^[=+\-@\t\r]/;
const PLAIN_NUMBER = /^[+-]?\d+(\.\d+)?$/;

/**
 * One CSV line, comma-separated, ended with CRLF (RFC 4180). A cell that a spreadsheet would run as a formula is
 * written as text, with an apostrophe before it; plain numbers are left alone.
 */
export function csvLine(cells: readonly (string | number | null)[]): string {
  return (
    cells
      .map((cell) => {
        let text = cell === null ? '' : String(cell);
        if (FORMULA_START.test(text) && !PLAIN_NUMBER.test(text)) text = `'${text}`;
        return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
      })
      .join(',') + '\r\n'
  );
}
