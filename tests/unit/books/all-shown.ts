import { sql } from 'kysely';
import { exportCsv } from '@/books/lists/export';
import { plainDate } from '@/core/calendar';
import type { World } from './world';

const LISTS = [
  'invoices',
  'receipts',
  'payers',
  'payouts',
  'lines',
  'ageing',
  'trial-balance',
  'deposit-income',
  'items',
  'terms',
  'charged-otherwise',
] as const;
/** The rows of settings, which no list exports: as they are kept, but for when and by whom. */
const KEPT = {
  statement_rule: 'position, name, active, conditions, result',
  map_rule: 'position, name, active, conditions, landing',
  map_default: 'layer, ref_id, field, value',
  dimension: 'id, name',
  dimension_value: 'dimension_id, name, active',
  fee_step: 'channel_id, since, rate, fixed, learnt',
  channel: 'id, name, payout_days, day_cut',
  account: 'code, name, class',
  payer_alias: 'payer_id, name, at_bank',
  forgotten_name: 'payer_id, name',
  doubled: 'statement_line_id, certainty, denied',
  books: 'closed_through',
} as const;

/**
 * All that the pages show of the books, by list and by kind of setting, but for the numbers of journals: what is taken back is
 * written too.
 */
export async function allShown({ books }: World): Promise<Record<string, string>> {
  const shown: Record<string, string> = {};
  for (const list of LISTS) {
    const search: Record<string, string> = { state: list === 'lines' ? 'all' : '', channel: '1' };
    if (list !== 'lines') delete search.state;
    const context = {
      books,
      currency: 'EUR' as never,
      today: plainDate('2026-11-16'),
      search,
      fileBytes: () => {
        throw new Error('no file is asked for');
      },
    };
    let text = '';
    for await (const part of exportCsv(list, context)!) text += part;
    // Of receipts the last column is the journal: whether there is one is what counts. What is taken back was moved, there and back.
    if (list === 'receipts') text = text.replace(/,\d+$/gm, ',posted');
    if (list === 'trial-balance') text = text.replace(/,[\d.]+,[\d.]+,(-?[\d.]+)$/gm, ',$1');
    // An account that entries made stays, since they do; what counts is that nothing is on it.
    shown[list] = text.replace(/^\d+,Transfers in transit,asset,0\.00\r?\n/m, '');
  }
  for (const [table, columns] of Object.entries(KEPT)) {
    const { rows } =
      await sql`SELECT ${sql.raw(columns)} FROM ${sql.table(table)} ORDER BY ${sql.raw(columns)}`.execute(books.reader);
    shown[table] = JSON.stringify(rows).replace(/\{"code":"\d+","name":"Transfers in transit","class":"asset"\},/, '');
  }
  return shown;
}
