import { confirmByRules, confirmMatch } from '@/books/matching/confirm';
import { channelsForDeposits, depositIncome, turnIntoReceipts } from '@/books/matching/deposit-income';
import { listStatementRules, saveStatementRule, tryStatementRule } from '@/books/matching/statement-rules';
import { workingSheet } from '@/books/matching/sheet';
import { exportCsv } from '@/books/lists/export';
import { mergePayers } from '@/books/payers/same';
import { statementImporter } from '@/books/statements/import';
import type { AccountId } from '@/core/ledger';
import { payerNamed } from './bills';
import { statement, useWorld } from './world';
import { bookedTo } from './written-rows';

const world = useWorld();
let income: AccountId;
let other: AccountId;
let anna: number;
beforeEach(async () => {
  [income, other] = [await world.account('4010'), await world.account('4030')];
  anna = await payer('Anna Berg');
});

const payer = (name: string) => payerNamed(world, name);
const rule = (name: string, text: string, more: object = {}) => ({
  id: null,
  name,
  active: true,
  conditions: { texts: [{ how: 'words' as const, text }] },
  result: { account: income, dimensions: {}, taxCode: null, payer: null, byNumber: [], ...more },
});
const bring = () =>
  world.bringIn(
    statementImporter,
    statement(
      0,
      ['2026-11-02', 12_000, 'HALL HIRE BERG'],
      ['2026-11-04', 5_000, 'PLATFORM X 0711'],
      ['2026-11-09', 12_000, 'HALL HIRE BERG'],
      ['2026-11-10', 7_000, 'PLATFORM X 0712'],
    ),
  );
const undo = () => world.undoLast();
const groups = async () =>
  (await depositIncome(world.books.reader)).map(({ by, name, amount, deposits }) => [
    by,
    name,
    amount,
    deposits.length,
  ]);

describe('rules with a payer, and with accounts by numbers', () => {
  test('money of a rule is its payer’s; merged, it is the other payer’s', async () => {
    await bring();
    await world.must(saveStatementRule, rule('Hire', 'hall hire', { payer: anna }));
    await world.must(saveStatementRule, rule('Platform', 'platform x'));
    await world.must(confirmByRules, {});
    expect(await groups()).toEqual([
      ['payer', 'Anna Berg', 24_000, 2],
      ['rule', 'Platform', 12_000, 2],
    ]);
    const berg = await payer('A. Berg Ltd');
    await world.must(mergePayers, { from: anna, into: berg });
    expect((await groups())[0]![1]).toBe('A. Berg Ltd');
    expect((await listStatementRules(world.books.reader))[0]!.payer).toEqual({ id: anna, name: 'Anna Berg' });
    await undo();
    expect((await groups())[0]![1]).toBe('Anna Berg');
  });

  test('the number in the text decides the account; two numbers are open, each a way', async () => {
    await world.bringIn(
      statementImporter,
      statement(
        0,
        ['2026-11-02', 100, 'UNION 4711 DUES'],
        ['2026-11-03', 200, 'UNION 004712'],
        ['2026-11-04', 300, 'UNION 4711 4712'],
        ['2026-11-05', 400, 'UNION'],
      ),
    );
    await world.must(
      saveStatementRule,
      rule('Union', 'union', {
        byNumber: [
          { number: '4711', account: other },
          { number: '4712', account: income },
        ],
      }),
    );
    const sheet = async (text: string) =>
      (await workingSheet(world.books.reader, await world.id('statement_line', text)))!;
    expect((await sheet('UNION 4711 DUES')).parts[0]!.id).toBe(other);
    expect((await sheet('UNION 004712')).parts[0]!.id).toBe(income);
    expect((await sheet('UNION')).parts[0]!.id).toBe(income);
    const both = await sheet('UNION 4711 4712');
    expect([both.certainty, both.others.length]).toEqual(['open', 1]);
    expect(both.because[1]).toBe('rule “Union (4711)” comes first; “Union (4712)” would say otherwise');
  });

  test('a renamed rule keeps what it booked; two of one name are counted apart', async () => {
    await bring();
    const { rule: id } = await world.must(saveStatementRule, rule('Same', 'hall hire'));
    await world.must(saveStatementRule, rule('Same', 'platform x'));
    await world.must(confirmByRules, {});
    await world.must(saveStatementRule, { ...rule('Hire of the hall', 'hall hire'), id });
    expect((await listStatementRules(world.books.reader)).map(({ name, booked }) => [name, booked])).toEqual([
      ['Hire of the hall', 2],
      ['Same', 2],
    ]);
  });

  test('a payer or an account by number that is not there is refused; trying counts what numbers decide', async () => {
    expect(await world.refusal(saveStatementRule, rule('X', 'x', { payer: 999 }))).toBe('not-found');
    expect(await world.refusal(saveStatementRule, rule('X', 'x', { byNumber: [{ number: '1', account: 999 }] }))).toBe(
      'not-found',
    );
    expect(
      await world.refusal(saveStatementRule, rule('X', 'x', { byNumber: [{ number: 'none', account: other }] })),
    ).toBe('invalid-input');
    await bring();
    const tried = await world.books.read((db) =>
      tryStatementRule(db, rule('P', 'platform x', { byNumber: [{ number: '711', account: other }] })),
    );
    expect(tried).toMatchObject({ count: 2, amount: 12_000 });
  });
});

describe('income from deposits alone', () => {
  beforeEach(async () => {
    await bring();
    await world.must(saveStatementRule, rule('Hire', 'hall hire', { payer: anna }));
    await world.must(confirmByRules, {});
  });

  test('what was put there by hand is known by how the bank words it; what is more than income is not among it', async () => {
    const line = async (text: string) => world.id('statement_line', text);
    await world.must(confirmMatch, {
      line: await line('PLATFORM X 0711'),
      parts: [bookedTo(income, 5_000)],
      restTo: null,
    });
    await world.must(confirmMatch, {
      line: await line('PLATFORM X 0712'),
      parts: [bookedTo(income, 8_000), bookedTo(await world.account('6110'), -1_000)],
      restTo: null,
    });
    expect(await groups()).toEqual([
      ['payer', 'Anna Berg', 24_000, 2],
      ['wording', 'PLATFORM X', 5_000, 1],
    ]);
  });

  test('is exported as it is shown, a row for each deposit', async () => {
    const lines = exportCsv('deposit-income', {
      books: world.books,
      currency: 'EUR' as never,
      today: '2026-11-16' as never,
      search: {},
      fileBytes: () => {
        throw new Error('no file');
      },
    });
    let text = '';
    for await (const piece of lines!) text += piece;
    expect(text.trim().split(/\r?\n/)).toEqual([
      'From,Known by,Date,Text,Account,Amount',
      'Anna Berg,payer,2026-11-09,HALL HIRE BERG,4010 Repairs,120.00',
      'Anna Berg,payer,2026-11-02,HALL HIRE BERG,4010 Repairs,120.00',
    ]);
  });

  test('becomes receipts of a channel, matched again, with nothing moved; and deposits again, and receipts again', async () => {
    const [channel] = await channelsForDeposits(world.books.reader);
    const before = await world.balances();
    const matches = (await depositIncome(world.books.reader))[0]!.deposits.map(({ match }) => match);
    const turned = await world.must(turnIntoReceipts, { matches, channel: channel!.id });
    expect(turned).toMatchObject({ receipts: 2, amount: 24_000, moves: [] });
    expect(await world.balances()).toEqual(before);
    const receipts = await world.books.reader
      .selectFrom('receipt')
      .select(['payer_id', 'gross', 'fee', 'book_date', 'match_id'])
      .orderBy('book_date')
      .execute();
    expect(receipts).toMatchObject([
      { payer_id: anna, gross: 12_000, fee: 0, book_date: '2026-11-02' },
      { gross: 12_000, book_date: '2026-11-09' },
    ]);
    expect(receipts.every(({ match_id: match }) => match !== null)).toBe(true);
    expect(await groups()).toEqual([]);
    await undo();
    expect([await groups(), await world.balances()]).toEqual([[['payer', 'Anna Berg', 24_000, 2]], before]);
    await undo();
    expect([await groups(), await world.balances()]).toEqual([[], before]);
  });

  test('a match that is something else, or a channel that is not there, is refused, and nothing changes', async () => {
    const matches = (await depositIncome(world.books.reader))[0]!.deposits.map(({ match }) => match);
    const before = [await world.count('journal'), await world.count('receipt')];
    expect(await world.refusal(turnIntoReceipts, { matches: [...matches, 999], channel: 1 })).toBe('not-found');
    expect(await world.refusal(turnIntoReceipts, { matches, channel: 999 })).toBe('not-found');
    expect([await world.count('journal'), await world.count('receipt')]).toEqual(before);
  });
});
