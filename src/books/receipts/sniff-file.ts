import { receiptProfile, type ReceiptProfile } from '@/formats/receipts/profile';
import { sniffReceipts, type Sniffed } from '@/formats/receipts/sniff';
import { sniffDelimiterOf } from '@/formats/table/survey';
import { FileRefused, type ByteSource, type Finding } from '@/formats/finding';
import { formatOf, peek, type TableFormat } from '@/formats/table/rows';
import type { Encoding } from '@/formats/text';
import type { Reading } from '../store';
import { rowsOf } from '../imports/rows-of';

/** A first look at a file of receipts. */
export type FileLook =
  | { readonly kind: 'refused'; readonly finding: Finding }
  /** It has this program's own columns and needs no reading. */
  | { readonly kind: 'own' }
  | {
      readonly kind: 'read';
      readonly format: TableFormat;
      readonly sniffed: Sniffed;
      /** The reading that was confirmed for this header before. */
      readonly saved: ReceiptProfile | null;
    };

const OWN = ['id', 'type', 'time', 'currency', 'gross', 'fee', 'net', 'payer', 'document', 'payout'];

/** What somebody said of a file that was guessed wrongly. */
export interface SaidOfFile {
  readonly delimiter?: ReceiptProfile['delimiter'] | undefined;
  readonly encoding?: Encoding | undefined;
}

/** Looks a file through: what it seems to be, and whether its header was met before. Nothing is brought in. */
export async function lookAtFile(
  db: Reading,
  open: () => ByteSource,
  channel: number | null,
  said: SaidOfFile = {},
): Promise<FileLook> {
  const books = await db.selectFrom('books').select(['zone', 'currency']).executeTakeFirstOrThrow();
  const of =
    channel === null
      ? undefined
      : await db.selectFrom('channel').select('currency').where('id', '=', channel).executeTakeFirst();
  try {
    const { head } = await peek(open());
    const format = formatOf(head);
    const delimiter = format === 'csv' ? (said.delimiter ?? (await sniffDelimiterOf(open()))) : ',';
    const currency = of?.currency ?? books.currency;
    const guessed = await sniffReceipts(rowsOf(open(), delimiter, said.encoding), delimiter, {
      zone: books.zone,
      currency,
    });
    const encoding = said.encoding ?? 'auto';
    const sniffed = { ...guessed, profile: { ...guessed.profile, encoding } };
    const names = sniffed.fingerprint.split('|');
    if (format === 'csv' && sniffed.profile.above === 0 && OWN.every((name) => names.includes(name)))
      return { kind: 'own' };
    const row = await db
      .selectFrom('profile')
      .select('settings')
      .where('fingerprint', '=', sniffed.fingerprint)
      .executeTakeFirst();
    const saved = row ? receiptProfile.safeParse(JSON.parse(row.settings)) : null;
    // Where the table begins and how its columns are parted is this file's own, whatever the last one with its header had.
    const { delimiter: parted, above } = sniffed.profile;
    return {
      kind: 'read',
      format,
      sniffed,
      saved: saved?.success
        ? { ...saved.data, delimiter: parted, above, encoding: said.encoding ?? saved.data.encoding }
        : null,
    };
  } catch (error) {
    if (error instanceof FileRefused) return { kind: 'refused', finding: error.finding };
    throw error;
  }
}
