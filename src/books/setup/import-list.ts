import { z } from 'zod';
import { ACCOUNT_CLASSES, ACCOUNT_ROLES } from '@/core/ledger';
import { parseAmount, type Currency } from '@/core/money';
import { plural } from '@/core/words';
import { readTable, type ColumnPositions } from '@/formats/csv';
import { FileRefused, type Finding } from '@/formats/finding';
import { findingWords } from '@/formats/finding-words';
import { done, refusalWords, refuse, type Command, type CommandContext, type Outcome, type Undo } from '../command';
import { payerDetails, setPayerDetails, type PayerDetails } from '../payers/details';
import type { Reading, Writing } from '../store';
import { keepAccount } from './accounts';
import { keepItem, keepTaxCode, keepTerms } from './list-commands';

export const IMPORTED_LISTS = ['payers', 'items', 'tax-codes', 'terms', 'accounts'] as const;
export type ImportedList = (typeof IMPORTED_LISTS)[number];

/** What came of a list's file: rows that were refused are named with line and reason, the others stand. */
export interface ListReport {
  readonly added: number;
  readonly changed: number;
  readonly known: number;
  readonly refused: readonly { readonly line: number; readonly why: string }[];
}

const COLUMNS = {
  payers: {
    required: ['Name'],
    optional: ['Email', 'Other emails', 'Address', 'Country', 'Tax number', 'Terms', 'Note'],
  },
  items: { required: ['Code', 'Name', 'Income account', 'Tax code'], optional: ['Description', 'Net price', 'Unit'] },
  'tax-codes': { required: ['Code', 'Name', 'Rate', 'Account'], optional: ['Category'] },
  terms: { required: ['Name', 'Due days'], optional: ['Off %', 'Off within days'] },
  accounts: { required: ['Code', 'Name', 'Class'], optional: ['Role'] },
} as const satisfies Record<ImportedList, { required: readonly string[]; optional: readonly string[] }>;

export const columnsOf = (list: ImportedList): readonly string[] => [
  ...COLUMNS[list].required,
  ...COLUMNS[list].optional,
];

type Row = (column: string) => string;
type Kept = Outcome<unknown> | { readonly why: string };

const whole = (text: string) => (/^\d{1,6}$/.test(text) ? Number(text) : null);
const points = (text: string) =>
  /^\d{1,3}([.,]\d{1,2})?$/.test(text) ? Math.round(Number(text.replace(',', '.')) * 100) : null;

async function idOf(db: Reading, table: 'account' | 'tax_code' | 'item', code: string): Promise<number | null> {
  const row = await db
    .selectFrom(table as 'item')
    .select('id')
    .where('code', '=', code)
    .executeTakeFirst();
  return row?.id ?? null;
}

async function keepPayer(tx: Writing, row: Row, context: CommandContext): Promise<Kept> {
  const { db } = tx;
  const [name, email] = [row('Name'), row('Email').toLowerCase()];
  const found = db.selectFrom('payer').select('id').where('merged_into', 'is', null);
  const same =
    (email && (await found.where('email', '=', email).where('name', '=', name).executeTakeFirst())) ||
    (email && (await found.where('email', '=', email).executeTakeFirst())) ||
    (await found.where('name', '=', name).where('email', 'in', ['', email]).executeTakeFirst());
  const named = row('Terms');
  const terms =
    named === '' ? null : await db.selectFrom('terms').select('id').where('name', '=', named).executeTakeFirst();
  if (terms === undefined) return { why: `There are no terms named ${named}.` };
  const before: Partial<PayerDetails> = same ? ((await payerDetails(db, same.id)) ?? {}) : {};
  // An empty cell says nothing: what is there stays.
  const or = (text: string, was: string | undefined) => text || (was ?? '');
  const details = {
    name,
    email: or(email, before.email),
    emails: [
      ...new Set([
        ...(before.emails ?? []),
        ...row('Other emails')
          .toLowerCase()
          .split(/[\s,;]+/)
          .filter(Boolean),
      ]),
    ],
    address: or(row('Address').replace(/\s*\|\s*/g, '\n'), before.address),
    country: or(row('Country').toUpperCase(), before.country),
    taxNumber: or(row('Tax number'), before.taxNumber),
    terms: terms?.id ?? before.terms ?? null,
    note: or(row('Note'), before.note),
    archived: before.archived ?? false,
    externals: before.externals ?? [],
  };
  return run(setPayerDetails, tx, { payer: same?.id ?? null, details }, context);
}

async function keepRow(
  tx: Writing,
  list: ImportedList,
  row: Row,
  currency: Currency,
  context: CommandContext,
): Promise<Kept> {
  const { db } = tx;
  switch (list) {
    case 'payers':
      return keepPayer(tx, row, context);
    case 'items': {
      const income = await idOf(db, 'account', row('Income account'));
      if (income === null) return { why: `There is no account ${row('Income account')}.` };
      const tax = await idOf(db, 'tax_code', row('Tax code'));
      if (tax === null) return { why: `There is no tax code ${row('Tax code')}.` };
      const price = row('Net price') === '' ? null : parseAmount(row('Net price'), currency);
      if (price !== null && !price.ok) return { why: `${row('Net price')} is no amount.` };
      const id = await idOf(db, 'item', row('Code'));
      const input = {
        id,
        code: row('Code'),
        name: row('Name'),
        description: row('Description'),
        income_account_id: income,
        tax_code_id: tax,
        price: price?.minor ?? null,
        unit: row('Unit') || 'C62',
        archived: 0,
      };
      return run(keepItem, tx, input, context);
    }
    case 'tax-codes': {
      const account = await idOf(db, 'account', row('Account'));
      if (account === null) return { why: `There is no account ${row('Account')}.` };
      const rate = points(row('Rate'));
      if (rate === null) return { why: `${row('Rate')} is no percentage.` };
      const id = await idOf(db, 'tax_code', row('Code'));
      const category = row('Category').toUpperCase() || (rate === 0 ? 'Z' : 'S');
      return run(
        keepTaxCode,
        tx,
        { id, code: row('Code'), name: row('Name'), rate, account_id: account, category, archived: 0 },
        context,
      );
    }
    case 'accounts': {
      if (!ACCOUNT_CLASSES.some((one) => one === row('Class').toLowerCase()))
        return { why: `${row('Class')} is no class of accounts: ${ACCOUNT_CLASSES.join(', ')}.` };
      const role = row('Role').toLowerCase().replaceAll(' ', '_') || null;
      if (role !== null && !ACCOUNT_ROLES.some((one) => one === role))
        return { why: `${row('Role')} is no role of accounts: ${ACCOUNT_ROLES.join(', ').replaceAll('_', ' ')}.` };
      return run(
        keepAccount,
        tx,
        { code: row('Code'), name: row('Name'), class: row('Class').toLowerCase(), role },
        context,
      );
    }
    case 'terms': {
      const [due, off, within] = [
        whole(row('Due days')),
        points(row('Off %') || '0'),
        whole(row('Off within days') || '0'),
      ];
      if (due === null || off === null || within === null)
        return { why: 'Days are whole numbers, and what is off is a percentage.' };
      const there = await db.selectFrom('terms').select('id').where('name', '=', row('Name')).executeTakeFirst();
      return run(
        keepTerms,
        tx,
        {
          id: there?.id ?? null,
          name: row('Name'),
          due_days: due,
          discount_rate: off,
          discount_days: within,
          archived: 0,
        },
        context,
      );
    }
  }
}

/** Runs the command that a form would, so that a file and a form keep the same rules. */
async function run<I, T>(command: Command<I, T>, tx: Writing, input: unknown, context: CommandContext): Promise<Kept> {
  const read = command.input.safeParse(input);
  if (read.success) return command.run(tx, read.data, context);
  const issue = read.error.issues[0]!;
  return {
    why: refusalWords({ code: 'invalid-input', field: String(issue.path.at(-1)), expected: issue.message }).what,
  };
}

async function* once(text: string): AsyncGenerator<Uint8Array> {
  yield new TextEncoder().encode(text);
}

/** Takes a list from a CSV: rows that are here are changed to what it says, new ones are added, and all of it is undone as one. */
export const importList: Command<{ list: ImportedList; text: string; name: string }, ListReport> = {
  name: 'import-list',
  input: z.object({
    list: z.enum(IMPORTED_LISTS),
    text: z.string().max(10_000_000),
    name: z.string().max(200),
  }),
  async run(tx, { list, text, name }, context) {
    const { currency } = await tx.db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
    const refused: { line: number; why: string }[] = [];
    const undos: Undo[] = [];
    let [added, changed, known] = [0, 0, 0];
    const told = ({ line, ...finding }: Finding) =>
      refused.push({ line: line ?? 0, why: findingWords({ ...finding, line }).what });
    try {
      const { required, optional } = COLUMNS[list] as { required: readonly string[]; optional: readonly string[] };
      for await (const { rows, at, findings } of readTable(once(text), { required, optional })) {
        for (const finding of findings) told(finding);
        for (const { line, fields } of rows) {
          const cell = cellsOf(fields, at);
          const kept = await keepRow(tx, list, cell, currency, context);
          if ('why' in kept) refused.push({ line, why: kept.why });
          else if ('refusal' in kept) refused.push({ line, why: refusalWords(kept.refusal).what });
          else if (kept.done.summary === null) known++;
          else {
            if (kept.done.summary.startsWith('Added')) added++;
            else changed++;
            if (kept.done.undo) undos.unshift(kept.done.undo);
          }
        }
      }
    } catch (error) {
      if (!(error instanceof FileRefused)) throw error;
      return refuse({
        code: 'invalid-input',
        field: name,
        expected: `a CSV with the columns ${columnsOf(list).join(', ')}`,
      });
    }
    const report = { added, changed, known, refused };
    if (added + changed === 0) return done(report, null);
    return done(
      report,
      `Brought in ${plural(added, 'new row', 'new rows')} of ${list.replace('-', ' ')}, ${changed} changed, from ${name}`,
      { command: 'undo-many', input: undos, label: `take ${name} back` },
    );
  },
};

const cellsOf =
  (fields: readonly string[], at: ColumnPositions<string>): Row =>
  (column) =>
    at[column] === undefined || at[column] < 0 ? '' : fields[at[column]]!.trim();
