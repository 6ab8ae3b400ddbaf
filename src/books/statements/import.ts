import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import { normaliseText } from '@/core/matching';
import type { Minor } from '@/core/money';
import { refusalsAsFindings, type ByteSource } from '@/formats/finding';
import { readCamt053, readStatementCsv, type StatementRecord } from '@/formats/statements';
import type { Importer } from '../imports/import-file';
import { refreshProposals } from '../matching/proposals';
import { PLAIN_TABLE } from '../imports/refused-rows';

/** Tells XML from CSV by the first character that is no white space or byte order mark. */
async function* readEither(source: ByteSource) {
  const chunks = source[Symbol.asyncIterator]();
  const first = await chunks.next();
  const head = first.done ? '' : new TextDecoder().decode(first.value.subarray(0, 512));
  async function* whole() {
    if (!first.done) yield first.value;
    for (let next = await chunks.next(); !next.done; next = await chunks.next()) yield next.value;
  }
  yield* head.trimStart().startsWith('<') ? readCamt053(whole()) : readStatementCsv(whole());
}

/**
 * What makes a line the same in two files: its day, its amount and all of the bank's words. Lines that agree in all of
 * it are told apart by how many of them the file has.
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

/** A bank's statement of one account: camt.053 or CSV, told apart by content. */
export const statementImporter: Importer<StatementRecord> = {
  kind: 'statement',
  noun: { one: 'statement line', many: 'statement lines' },
  reading: PLAIN_TABLE,
  read: (source) => refusalsAsFindings(readEither(source)),

  async stage(stage, db) {
    const insertStatement = stage.table(
      'stage_statement',
      `no INTEGER PRIMARY KEY, account_id INTEGER NOT NULL, currency TEXT NOT NULL, reference TEXT NOT NULL,
       opening INTEGER NOT NULL, closing INTEGER NOT NULL, first_day TEXT, last_day TEXT`,
    );
    const insertLine = stage.table(
      'stage_line',
      `no INTEGER PRIMARY KEY, statement_no INTEGER NOT NULL, account_id INTEGER NOT NULL, file_line INTEGER NOT NULL,
       book_date TEXT NOT NULL, value_date TEXT NOT NULL, amount INTEGER NOT NULL, text TEXT NOT NULL,
       counterparty TEXT NOT NULL, reference TEXT NOT NULL, fingerprint TEXT NOT NULL, occurrence INTEGER NOT NULL,
       action TEXT NOT NULL`,
    );
    const accounts = await db.selectFrom('bank_account').selectAll().execute();
    const seen = new Map<string, number>();
    let statementNo = 0;
    let lineNo = 0;
    let head: Extract<StatementRecord, { kind: 'statement' }> | null = null;
    let accountId = 0;
    return (record) => {
      if (record.kind === 'statement') {
        head = record;
        statementNo++;
        const account = accounts.find(({ iban }) => iban === record.account);
        accountId = account?.account_id ?? 0;
        const file = { scope: 'file', line: null } as const;
        if (!account) {
          const expected = accounts.map(({ iban }) => iban).join(' or ');
          stage.find({ ...file, code: 'other-account', expected, found: record.account });
        } else if (account.currency !== record.currency) {
          stage.find({ ...file, code: 'other-currency', expected: account.currency, found: record.currency });
        }
      } else if (record.kind === 'end') {
        const { currency, reference, opening } = head!;
        insertStatement(statementNo, accountId, currency, reference, opening, record.closing, record.from, record.to);
      } else {
        const print = fingerprint(record);
        const key = `${accountId}|${print}`;
        const occurrence = (seen.get(key) ?? 0) + 1;
        seen.set(key, occurrence);
        insertLine(
          ++lineNo,
          statementNo,
          accountId,
          record.line,
          record.bookDate,
          record.valueDate,
          record.amount,
          record.text,
          record.counterparty,
          record.reference,
          print,
          occurrence,
          'new',
        );
      }
    };
  },

  async judge(db) {
    await sql`
      UPDATE temp.stage_line SET action = 'known' WHERE EXISTS (
        SELECT 1 FROM statement_line l WHERE l.account_id = stage_line.account_id
          AND l.fingerprint = stage_line.fingerprint AND l.occurrence = stage_line.occurrence)
    `.execute(db);
    const { rows } = await sql<{ added: number; known: number }>`
      SELECT coalesce(sum(action = 'new'), 0) AS added, coalesce(sum(action = 'known'), 0) AS known FROM temp.stage_line
    `.execute(db);
    return { ...rows[0]!, updated: 0, changed: 0 };
  },

  async groups(db) {
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
  },

  async apply(tx, run) {
    const { db } = tx;
    await sql`
      INSERT INTO statement (account_id, reference, opening, closing, first_day, last_day, run_id)
      SELECT account_id, reference, opening, closing, first_day, last_day, ${run} FROM temp.stage_statement ORDER BY no
    `.execute(db);
    await sql`
      INSERT INTO statement_line (statement_id, account_id, book_date, value_date, amount, currency, text, counterparty,
                                  reference, file_line, fingerprint, occurrence, run_id)
      SELECT s.id, l.account_id, l.book_date, l.value_date, l.amount, st.currency, l.text, l.counterparty, l.reference,
             l.file_line, l.fingerprint, l.occurrence, ${run}
      FROM temp.stage_line l
      JOIN temp.stage_statement st ON st.no = l.statement_no
      JOIN (SELECT id, row_number() OVER (ORDER BY id) AS no FROM statement WHERE run_id = ${run}) s
        ON s.no = l.statement_no
      WHERE l.action = 'new' ORDER BY l.no
    `.execute(db);
    await refreshProposals(tx, { statementRun: run });
  },
};
