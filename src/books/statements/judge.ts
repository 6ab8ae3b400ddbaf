import { sql } from 'kysely';
import type { ImportCounts } from '../imports/import-file';
import type { Reading } from '../store';
import { pairSame, Rarity, wordsOf, type LineWords } from './same-line';

interface Row {
  readonly id: number;
  readonly place: string;
  readonly staged: 0 | 1;
  readonly bankId: string;
  readonly text: string;
  readonly counterparty: string;
  readonly reference: string;
}

const lineWords = (row: Row): LineWords => ({
  id: row.id,
  bankId: row.bankId,
  reference: row.reference,
  words: wordsOf(row),
});

/** How many of the file's lines are looked at for which words are common. */
const LOOKED_AT = 20_000;

async function rarityOf(db: Reading): Promise<Rarity> {
  const rarity = new Rarity();
  const { rows } = await sql<Pick<Row, 'text' | 'counterparty' | 'reference'>>`
    SELECT text, counterparty, reference FROM temp.stage_line ORDER BY no LIMIT ${LOOKED_AT}
  `.execute(db);
  for (const row of rows) rarity.add(wordsOf(row));
  return rarity;
}

/**
 * Marks what is here already: first lines that say the very same; then, of each account, day and amount, those that another
 * format told in other words ({@link pairSame}). What is known and brings the payments it is a sum of gives them to the line.
 */
export async function judgeLines(db: Reading): Promise<ImportCounts> {
  await sql`
    UPDATE temp.stage_line SET action = 'known', here = (
      SELECT l.id FROM statement_line l WHERE l.account_id = stage_line.account_id
        AND l.fingerprint = stage_line.fingerprint AND l.occurrence = stage_line.occurrence)
    WHERE EXISTS (SELECT 1 FROM statement_line l WHERE l.account_id = stage_line.account_id
        AND l.fingerprint = stage_line.fingerprint AND l.occurrence = stage_line.occurrence)
  `.execute(db);
  const columns = sql`bank_id AS bankId, text, counterparty, reference`;
  const { rows } = await sql<Row>`
    WITH fresh AS MATERIALIZED (SELECT DISTINCT account_id, book_date, amount FROM temp.stage_line WHERE action = 'new'),
    taken AS MATERIALIZED (SELECT here FROM temp.stage_line WHERE here IS NOT NULL)
    SELECT account_id || '|' || book_date || '|' || amount AS place, no AS id, 1 AS staged, ${columns}
    FROM temp.stage_line WHERE action = 'new' AND EXISTS (SELECT 1 FROM statement_line l
      WHERE l.account_id = stage_line.account_id AND l.book_date = stage_line.book_date AND l.amount = stage_line.amount)
    UNION ALL
    SELECT l.account_id || '|' || l.book_date || '|' || l.amount, l.id, 0, l.bank_id, l.text, l.counterparty, l.reference
    FROM fresh f JOIN statement_line l INDEXED BY statement_line_day
      ON l.account_id = f.account_id AND l.book_date = f.book_date AND l.amount = f.amount
    WHERE l.id NOT IN (SELECT here FROM taken)
    ORDER BY 1, 3, 2
  `.execute(db);
  if (rows.length > 0) {
    const rarity = await rarityOf(db);
    const known: [number, number][] = [];
    for (let from = 0; from < rows.length;) {
      let to = from;
      while (to < rows.length && rows[to]!.place === rows[from]!.place) to++;
      const group = rows.slice(from, to);
      const side = (staged: 0 | 1) => group.filter((row) => row.staged === staged).map(lineWords);
      known.push(...pairSame(side(1), side(0), rarity));
      from = to;
    }
    await sql`
      UPDATE temp.stage_line SET action = 'known', here = t.b
      FROM (SELECT value ->> 0 AS a, value ->> 1 AS b FROM json_each(${JSON.stringify(known)})) AS t WHERE no = t.a
    `.execute(db);
  }
  await sql`
    UPDATE temp.stage_line SET action = 'updated' WHERE action = 'known'
      AND EXISTS (SELECT 1 FROM temp.stage_detail d WHERE d.line_no = stage_line.no)
      AND NOT EXISTS (SELECT 1 FROM statement_line_detail d WHERE d.line_id = stage_line.here)
  `.execute(db);
  const { rows: counts } = await sql<Omit<ImportCounts, 'changed'>>`
    SELECT coalesce(sum(action = 'new'), 0) AS added, coalesce(sum(action = 'known'), 0) AS known,
      coalesce(sum(action = 'updated'), 0) AS updated FROM temp.stage_line
  `.execute(db);
  return { ...counts[0]!, changed: 0 };
}
