import { sql } from 'kysely';
import type { Reading } from '../store';

/** Puts findings on rows and takes them out of what is new, in one go. */
const refuseWhere = (db: Reading, code: string, select: ReturnType<typeof sql>) => {
  const found = sql`
    INSERT INTO temp.stage_finding (line, scope, code, subject, field, expected, found)
    SELECT line, 'record', ${code}, subject, field, expected, found FROM (${select})
  `.execute(db);
  return found.then(() =>
    sql`
      UPDATE temp.stage_receipt SET action = 'refused'
      WHERE action <> 'refused' AND line IN (SELECT line FROM temp.stage_finding WHERE code = ${code})
    `.execute(db),
  );
};

/** The figures of a row as a person would compare them; a fee that is not stated says so. */
const figures = (table: string) =>
  sql.raw(
    `printf('%s, gross %.2f, tip %.2f, fee %s, %s', ${table}.kind, ${table}.gross / 100.0, ${table}.tip / 100.0, ` +
      `coalesce(printf('%.2f', ${table}.fee / 100.0), 'not stated'), ${table}.occurred_at)`,
  );

const differs = (a: string, b: string) =>
  sql.raw(
    ['kind', 'gross', 'tip', 'fee', 'currency', 'occurred_at'].map((c) => `${a}.${c} IS NOT ${b}.${c}`).join(' OR '),
  );

/** What a several-line receipt is made of, as one text: its lines, then its tenders. This of a staged one. */
export const STAGED_SHAPE = sql`json_array(
  json((SELECT json_group_array(json_array(item, description, units, gross, discount, tax)) FROM
     (SELECT * FROM temp.stage_line l WHERE l.line = stage_receipt.line ORDER BY line_no))),
  json((SELECT json_group_array(json_array(tender, amount)) FROM
     (SELECT * FROM temp.stage_tender t WHERE t.line = stage_receipt.line ORDER BY tender))))`;

/** The same of one that is in the books. */
const shapeOf = (receipt: ReturnType<typeof sql>) => sql<string>`json_array(
  json((SELECT json_group_array(json_array(coalesce(i.code, ''), l.description, l.units, l.gross, l.discount, l.tax)) FROM
     (SELECT * FROM receipt_line WHERE receipt_id = ${receipt} ORDER BY line_no) l LEFT JOIN item i ON i.id = l.item_id)),
  json((SELECT json_group_array(json_array(tender, amount)) FROM
     (SELECT * FROM receipt_tender WHERE receipt_id = ${receipt} ORDER BY tender))))`;

export async function shapeHere(db: Reading, receipt: number): Promise<string> {
  return (await sql<{ shape: string }>`SELECT ${shapeOf(sql`${receipt}`)} AS shape`.execute(db)).rows[0]!.shape;
}

async function judgeRepeats(db: Reading): Promise<void> {
  // The same id twice in one file: the first counts; later ones are known where they say the same.
  await sql`
    UPDATE temp.stage_receipt SET action = 'repeat', known_id = d.first_line
    FROM (
      SELECT external_id, kind = 'payout' AS is_payout, min(line) AS first_line
      FROM temp.stage_receipt GROUP BY 1, 2 HAVING count(*) > 1
    ) AS d
    WHERE stage_receipt.external_id = d.external_id AND (stage_receipt.kind = 'payout') = d.is_payout
      AND stage_receipt.line > d.first_line
  `.execute(db);
  await refuseWhere(
    db,
    'repeated-id',
    sql`
      SELECT s.line, s.external_id AS subject, 'line ' || f.line || ': ' || ${figures('f')} AS expected,
             ${figures('s')} AS found, 'Id' AS field
      FROM temp.stage_receipt s JOIN temp.stage_receipt f ON f.line = s.known_id
      WHERE s.action = 'repeat' AND (${differs('s', 'f')})
    `,
  );
  await sql`UPDATE temp.stage_receipt SET action = 'known', known_id = NULL WHERE action = 'repeat'`.execute(db);
}

async function judgeAgainstBooks(db: Reading, channel: number): Promise<void> {
  await sql`
    UPDATE temp.stage_receipt SET action = 'here', known_id = r.id FROM receipt AS r
    WHERE stage_receipt.action = 'new' AND stage_receipt.kind <> 'payout'
      AND r.channel_id = ${channel} AND r.external_id = stage_receipt.external_id
  `.execute(db);
  await sql`
    UPDATE temp.stage_receipt SET action = 'payout-here', known_id = p.id FROM payout AS p
    WHERE stage_receipt.action = 'new' AND stage_receipt.kind = 'payout'
      AND p.channel_id = ${channel} AND p.external_id = stage_receipt.external_id
  `.execute(db);
  await refuseWhere(
    db,
    'other-figures',
    sql`
      SELECT s.line, s.external_id AS subject, 'Id' AS field, printf('payout, %.2f, %s', p.net / 100.0, p.paid_at) AS expected,
             printf('payout, %.2f, %s', -s.gross / 100.0, s.occurred_at) AS found
      FROM temp.stage_receipt s JOIN payout p ON p.id = s.known_id
      WHERE s.action = 'payout-here' AND (p.net <> -s.gross OR p.paid_at <> s.occurred_at OR p.currency <> s.currency)
    `,
  );
  // A receipt that the source states otherwise now: its new figures wait beside it until someone takes them over.
  await sql`
    UPDATE temp.stage_receipt SET action = 'changed'
    WHERE action = 'here' AND EXISTS (
      SELECT 1 FROM receipt r WHERE r.id = stage_receipt.known_id AND (${differs('stage_receipt', 'r')}))
      AND NOT EXISTS (SELECT 1 FROM receipt_change c WHERE c.receipt_id = stage_receipt.known_id
        AND NOT (${sql.raw(['kind', 'gross', 'tip', 'fee', 'occurred_at'].map((c) => `stage_receipt.${c} IS NOT c.${c}`).join(' OR '))}))
  `.execute(db);
  await sql`
    UPDATE temp.stage_receipt SET action = 'changed'
    WHERE action = 'here' AND line IN (SELECT line FROM temp.stage_line) AND ${STAGED_SHAPE} <> ${shapeOf(sql`stage_receipt.known_id`)}
      AND NOT EXISTS (SELECT 1 FROM receipt_change c WHERE c.receipt_id = known_id AND c.shape = ${STAGED_SHAPE})
  `.execute(db);
  await refuseWhere(
    db,
    'other-payout',
    sql`
      SELECT s.line, s.external_id AS subject, 'Payout' AS field, r.payout_ref AS expected,
             coalesce(nullif(s.payout, ''), 'none') AS found
      FROM temp.stage_receipt s JOIN receipt r ON r.id = s.known_id
      WHERE s.action = 'here' AND r.payout_ref <> '' AND s.payout <> '' AND s.payout <> r.payout_ref
    `,
  );
  await sql`
    UPDATE temp.stage_receipt SET action = CASE
      WHEN kind <> 'payout' AND payout <> '' AND (SELECT payout_ref FROM receipt r WHERE r.id = known_id) = ''
      THEN 'updated' ELSE 'known' END
    WHERE action IN ('here', 'payout-here')
  `.execute(db);
}

/** Marks each staged row new, known, updated, changed or refused. */
export async function judgeStaged(db: Reading, channel: number): Promise<void> {
  await judgeRepeats(db);
  await judgeAgainstBooks(db, channel);
}
