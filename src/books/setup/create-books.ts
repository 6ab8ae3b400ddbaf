import { z } from 'zod';
import { ACCOUNT_CLASSES, ACCOUNT_ROLES, SINGLE_ROLES, credit, debit, type AccountId } from '@/core/ledger';
import type { PlainDate } from '@/core/calendar';
import { minor, type Minor } from '@/core/money';
import { done, refuse, type Command, type CommandContext, type Outcome } from '../command';
import { CHANNEL_KINDS, type Writing } from '../store';
import { JournalWriter } from '../ledger/journal-writer';
import { plainDateInput } from '../command/plain-date-input';
import { accountKey } from '@/formats/statements';

const code = z.string().trim().min(1).max(40);
const name = z.string().trim().min(1).max(120);
const currency = z.string().regex(/^[A-Z]{3}$/, 'a currency code of three letters');
const minorUnits = z.custom<Minor>((value) => Number.isSafeInteger(value), 'whole minor units');

/** What a new set of books is made of. Accounts, tax codes and items refer to each other by code. */
export const booksInput = z.object({
  name,
  currency,
  zone: name,
  country: z.string().regex(/^[A-Z]{2}$/, 'a country code of two letters'),
  fixedToday: plainDateInput.nullable(),
  accounts: z.array(z.object({ code, name, class: z.enum(ACCOUNT_CLASSES), role: z.enum(ACCOUNT_ROLES).nullable() })),
  taxCodes: z.array(z.object({ code, name, rate: z.number().int().min(0).max(10_000), account: code })),
  items: z.array(z.object({ code, name, income: code, taxCode: code })),
  bankAccounts: z.array(z.object({ account: code, iban: z.string().min(4) })),
  channels: z.array(
    z.object({
      name,
      kind: z.enum(CHANNEL_KINDS),
      clearing: code,
      bank: code,
      fees: code,
      refunds: code,
      tips: code,
      chargebacks: code.optional(),
      income: code,
      taxCode: code,
      feeRate: z.number().int().min(0).max(10_000),
      feeFixed: minorUnits,
      payoutDays: z.number().int().min(0).max(60),
    }),
  ),
  opening: z.object({
    date: plainDateInput,
    /** The account that takes the other side: what the owners had in the books before. */
    against: code,
    balances: z.array(z.object({ account: code, amount: minorUnits })),
  }),
});
export type BooksInput = z.infer<typeof booksInput>;

/** Something is named by a code that the input does not list. */
class UnknownCode extends Error {}

/** Makes a set of books in an empty file: chart, tax codes, items, bank accounts, channels, opening balances. */
export const createBooks: Command<BooksInput, { name: string }> = {
  name: 'create-books',
  input: booksInput,
  async run(tx, input, context) {
    try {
      return await make(tx, input, context);
    } catch (error) {
      if (!(error instanceof UnknownCode)) throw error;
      return refuse({ code: 'invalid-input', field: error.message, expected: 'a code that is listed' });
    }
  },
};

async function make(tx: Writing, input: BooksInput, context: CommandContext): Promise<Outcome<{ name: string }>> {
  const { db } = tx;
  const present = await db.selectFrom('books').select('name').executeTakeFirst();
  if (present) return refuse({ code: 'books-exist', name: present.name });
  for (const role of SINGLE_ROLES) {
    if (input.accounts.filter((account) => account.role === role).length !== 1) {
      return refuse({ code: 'invalid-input', field: 'accounts', expected: `exactly one account for ${role}` });
    }
  }
  await db
    .insertInto('books')
    .values({
      id: 1,
      name: input.name,
      currency: input.currency,
      zone: input.zone,
      country: input.country,
      closed_through: null,
      fixed_today: input.fixedToday,
    })
    .execute();

  const ids = new Map<string, number>();
  const idOf = (list: string, of: string) => {
    const id = ids.get(`${list}/${of}`);
    if (id === undefined) throw new UnknownCode(`${list} ${of}`);
    return id;
  };
  const account = (of: string) => idOf('account', of) as AccountId;

  for (const a of input.accounts) {
    const row = await db
      .insertInto('account')
      .values({ ...a, currency: input.currency })
      .returning('id')
      .executeTakeFirstOrThrow();
    ids.set(`account/${a.code}`, row.id);
  }
  for (const t of input.taxCodes) {
    const row = await db
      .insertInto('tax_code')
      .values({ code: t.code, name: t.name, rate: t.rate, account_id: account(t.account) })
      .returning('id')
      .executeTakeFirstOrThrow();
    ids.set(`tax code/${t.code}`, row.id);
  }
  for (const i of input.items) {
    await db
      .insertInto('item')
      .values({
        code: i.code,
        name: i.name,
        income_account_id: account(i.income),
        tax_code_id: idOf('tax code', i.taxCode),
      })
      .execute();
  }
  for (const b of input.bankAccounts) {
    await db
      .insertInto('bank_account')
      .values({ account_id: account(b.account), iban: accountKey(b.iban), currency: input.currency })
      .execute();
  }
  for (const c of input.channels) {
    const { id } = await db
      .insertInto('channel')
      .values({
        name: c.name,
        kind: c.kind,
        currency: input.currency,
        clearing_account_id: account(c.clearing),
        bank_account_id: account(c.bank),
        fee_account_id: account(c.fees),
        refund_account_id: account(c.refunds),
        tips_account_id: account(c.tips),
        chargeback_account_id: c.chargebacks === undefined ? null : account(c.chargebacks),
        income_account_id: account(c.income),
        tax_code_id: idOf('tax code', c.taxCode),
        fee_rate: c.feeRate,
        fee_fixed: c.feeFixed,
        payout_days: c.payoutDays,
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    const posting = { channel_id: id, from_day: '0000-01-01' as PlainDate, mode: 'each' } as const;
    await db.insertInto('channel_posting').values(posting).execute();
  }
  if (input.opening.balances.length > 0) {
    const writer = await JournalWriter.open(tx, context);
    const because = { why: 'opening' } as const;
    const lines = input.opening.balances.flatMap((b) => debit(account(b.account), b.amount, because));
    const total = minor(lines.reduce((t, line) => t + line.amount, 0));
    writer.write({
      date: input.opening.date,
      source: { kind: 'opening', id: 1, revision: 1 },
      memo: 'Opening balances',
      lines: [...lines, ...credit(account(input.opening.against), total, because)],
    });
    await writer.finish();
  }
  return done({ name: input.name }, `Made the books of ${input.name}`);
}
