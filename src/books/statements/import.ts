import { sql } from 'kysely';
import { addDays, formatLongDate, type PlainDate } from '@/core/calendar';
import { normaliseText } from '@/core/matching';
import type { Minor } from '@/core/money';
import type { Finding } from '@/formats/finding';
import { isAccount, type StatementRecord } from '@/formats/statements';
import type { Importer } from '../imports/import-file';
import { PLAIN_TABLE } from '../imports/refused-rows';
import type { Stage } from '../imports/stage';
import { refreshProposals } from '../matching/proposals';
import { todayOf } from '../setup/today';
import type { Reading } from '../store';
import { judgeLines } from './judge';
import { readStatementFile, type StatementReading } from './read-file';

/**
 * What makes a line the same in two files of one format: its day, its amount and all of the bank's words. Lines that agree in
 * all of it are told apart by how many of them the file has.
 */
function fingerprint(line: {
  bookDate: string;
  amount: number;
  text: string;
  counterparty: string;
  reference: string;
}) {
  const words = normaliseText(line.text) || normaliseText(`${line.counterparty} ${line.reference}`);
  return `${line.bookDate}|${line.amount}|${words}`;
}

/** A statement that is being staged; of each account one is open at a time. */
interface Open {
  readonly no: number;
  readonly head: Extract<StatementRecord, { kind: 'statement' }>;
  /** Null where it is of an account that these books do not have. */
  readonly account: number | null;
}

/** Days that a line may be booked ahead: banks date what came on a Friday evening to the day after a long weekend. */
const AHEAD = 4;

/** Stages what a file holds, each statement with the account it is of. */
class Staging {
  private readonly statement;
  private readonly line;
  private readonly detail;
  private readonly seen = new Map<string, number>();
  private readonly open = new Map<string, Open>();
  private readonly others: Finding[] = [];
  private readonly latest: PlainDate;
  private statements = 0;
  private lines = 0;
  private ours = 0;

  constructor(
    private readonly stage: Stage,
    private readonly accounts: readonly { account_id: number; iban: string; currency: string }[],
    private readonly today: PlainDate,
  ) {
    this.latest = addDays(today, AHEAD);
    this.statement = stage.table(
      'stage_statement',
      `no INTEGER PRIMARY KEY, account_id INTEGER NOT NULL, currency TEXT NOT NULL, reference TEXT NOT NULL,
       opening INTEGER, closing INTEGER, first_day TEXT, last_day TEXT`,
    );
    this.line = stage.table(
      'stage_line',
      `no INTEGER PRIMARY KEY, statement_no INTEGER NOT NULL, account_id INTEGER NOT NULL, file_line INTEGER NOT NULL,
       book_date TEXT NOT NULL, value_date TEXT NOT NULL, amount INTEGER NOT NULL, text TEXT NOT NULL,
       counterparty TEXT NOT NULL, reference TEXT NOT NULL, fingerprint TEXT NOT NULL, occurrence INTEGER NOT NULL,
       bank_id TEXT NOT NULL, action TEXT NOT NULL, here INTEGER`,
    );
    this.detail = stage.table(
      'stage_detail',
      `line_no INTEGER NOT NULL, no INTEGER NOT NULL, amount INTEGER NOT NULL, text TEXT NOT NULL,
       counterparty TEXT NOT NULL, reference TEXT NOT NULL, PRIMARY KEY (line_no, no)`,
      'by key',
    );
  }

  put(record: StatementRecord): void {
    switch (record.kind) {
      case 'statement':
        return this.begin(record);
      case 'line':
        return this.take(record);
      case 'end':
        return this.end(record);
    }
  }

  private begin(head: Open['head']): void {
    const account = this.accounts.find(({ iban }) => isAccount(iban, head.account));
    this.open.set(head.account, { no: ++this.statements, head, account: account?.account_id ?? null });
    if (!account) {
      const expected = this.accounts.map(({ iban }) => iban).join(' or ');
      this.others.push({ scope: 'record', line: null, code: 'other-account', expected, found: head.account });
    } else {
      this.ours++;
      if (account.currency !== head.currency) {
        const found = head.currency;
        this.stage.find({ scope: 'file', line: null, code: 'other-currency', expected: account.currency, found });
      }
    }
  }

  private take(record: Extract<StatementRecord, { kind: 'line' }>): void {
    const { no, account } = this.open.get(record.account)!;
    if (account === null) return;
    if (record.bookDate > this.latest) {
      const found = formatLongDate(record.bookDate);
      this.stage.find({
        scope: 'record',
        line: record.line,
        code: 'in-future',
        found,
        expected: formatLongDate(this.today),
      });
      return;
    }
    const print = fingerprint(record);
    const key = `${account}|${print}`;
    const occurrence = (this.seen.get(key) ?? 0) + 1;
    this.seen.set(key, occurrence);
    const { line, bookDate, valueDate, amount, text, counterparty, reference, bankId } = record;
    this.line(
      ++this.lines,
      no,
      account,
      line,
      bookDate,
      valueDate,
      amount,
      text,
      counterparty,
      reference,
      print,
      occurrence,
      bankId,
      'new',
      null,
    );
    record.details.forEach((one, index) =>
      this.detail(this.lines, index + 1, one.amount, one.text, one.counterparty, one.reference),
    );
  }

  private end(record: Extract<StatementRecord, { kind: 'end' }>): void {
    const { no, head, account } = this.open.get(record.account)!;
    if (account === null) return;
    const opening = record.opening === undefined ? head.opening : record.opening;
    this.statement(no, account, head.currency, head.reference, opening, record.closing, record.from, record.to);
  }

  /** A file of which nothing is ours is refused; of one of several accounts, what is not ours is left out and said. */
  finish(): void {
    for (const finding of this.others) this.stage.find({ ...finding, scope: this.ours === 0 ? 'file' : 'record' });
  }
}

/** A bank's statements, of one account or several, in any of the formats; a table as it was said or seems. */
export function statementsFrom(reading?: StatementReading): Importer<StatementRecord> {
  let staging: Staging;
  return {
    kind: 'statement',
    noun: { one: 'statement line', many: 'statement lines' },
    reading: reading ? { above: reading.settings.above, encoding: reading.settings.encoding } : PLAIN_TABLE,
    read: (open, db) => readStatementFile(open, db, reading),

    async stage(stage, db, now) {
      const books = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
      const accounts = await db.selectFrom('bank_account').selectAll().execute();
      staging = new Staging(stage, accounts, todayOf(books, now));
      return (record) => staging.put(record);
    },

    staged: () => staging.finish(),

    judge: judgeLines,
    groups,

    async apply(tx, run, context) {
      const { db } = tx;
      await sql`
        INSERT INTO statement (account_id, reference, opening, closing, first_day, last_day, run_id)
        SELECT account_id, reference, opening, closing, first_day, last_day, ${run} FROM temp.stage_statement ORDER BY no
      `.execute(db);
      await sql`
        INSERT INTO statement_line (statement_id, account_id, book_date, value_date, amount, currency, text, counterparty,
                                    reference, file_line, fingerprint, occurrence, bank_id, run_id)
        SELECT s.id, l.account_id, l.book_date, l.value_date, l.amount, st.currency, l.text, l.counterparty, l.reference,
               l.file_line, l.fingerprint, l.occurrence, l.bank_id, ${run}
        FROM temp.stage_line l
        JOIN (SELECT no, currency, row_number() OVER (ORDER BY no) AS place FROM temp.stage_statement) st
          ON st.no = l.statement_no
        JOIN (SELECT id, row_number() OVER (ORDER BY id) AS place FROM statement WHERE run_id = ${run}) s
          ON s.place = st.place
        WHERE l.action = 'new' ORDER BY l.no
      `.execute(db);
      await insertDetails(db);
      if (reading) {
        const { fingerprint: header, settings } = reading;
        const row = { fingerprint: header, settings: JSON.stringify(settings), used_at: context.now.toISOString() };
        await db
          .insertInto('statement_profile')
          .values(row)
          .onConflict((on) => on.column('fingerprint').doUpdateSet(row))
          .execute();
      }
      await refreshProposals(tx, { statementRun: run });
    },
  };
}

async function groups(db: Reading) {
  const { rows } = await sql<{ came: number; n: number; amount: Minor; first: PlainDate; last: PlainDate }>`
    SELECT amount > 0 AS came, count(*) AS n, sum(amount) AS amount, min(book_date) AS first, max(book_date) AS last
    FROM temp.stage_line WHERE action = 'new' GROUP BY came ORDER BY came DESC
  `.execute(db);
  const days = rows.flatMap((row) => [row.first, row.last]).sort();
  return {
    groups: rows.map((row) => ({ label: row.came ? 'came in' : 'went out', added: row.n, amount: row.amount })),
    from: days[0] ?? null,
    to: days.at(-1) ?? null,
  };
}

/** The payments of lines that are a sum of several; also of those that were here without them. */
async function insertDetails(db: Reading): Promise<void> {
  await sql`
    INSERT INTO statement_line_detail (line_id, no, amount, text, counterparty, reference)
    SELECT made.id, d.no, d.amount, d.text, d.counterparty, d.reference
    FROM temp.stage_detail d JOIN temp.stage_line l ON l.no = d.line_no
    JOIN statement_line made ON made.id = CASE l.action WHEN 'updated' THEN l.here WHEN 'new' THEN (
      SELECT n.id FROM statement_line n WHERE n.account_id = l.account_id
        AND n.fingerprint = l.fingerprint AND n.occurrence = l.occurrence) END
  `.execute(db);
}

/** Statements of any format, tables as they seem or were read before. */
export const statementImporter = statementsFrom();
