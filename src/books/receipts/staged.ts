import { sql } from 'kysely';
import type { Reading } from '../store';

/** The staging table of receipts. */
export const COLUMNS = `
  line INTEGER PRIMARY KEY, kind TEXT NOT NULL, external_id TEXT NOT NULL, occurred_at TEXT NOT NULL,
  book_date TEXT NOT NULL, expected_on TEXT, currency TEXT NOT NULL, gross INTEGER NOT NULL, tip INTEGER NOT NULL,
  fee INTEGER, payer TEXT NOT NULL, email TEXT NOT NULL, document TEXT NOT NULL, item TEXT NOT NULL,
  note TEXT NOT NULL, payout TEXT NOT NULL, refund_of TEXT NOT NULL, reference_key TEXT,
  discount INTEGER NOT NULL, payer_ref TEXT NOT NULL, method TEXT NOT NULL, site_id INTEGER, country TEXT NOT NULL,
  region TEXT NOT NULL, fund TEXT NOT NULL, action TEXT NOT NULL, known_id INTEGER`;

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

/** Writes the new payouts. */
export async function insertPayouts(db: Reading, channel: number, run: number): Promise<void> {
  await sql`
    INSERT INTO payout (channel_id, external_id, reference_key, paid_at, book_date, expected_on, currency, net, run_id)
    SELECT ${channel}, external_id, reference_key, occurred_at, book_date, expected_on, currency, -gross, ${run}
    FROM temp.stage_receipt WHERE action = 'new' AND kind = 'payout' ORDER BY line
  `.execute(db);
}

/** Writes the new receipts, tied to payer, invoice, item and payout. */
export async function insertReceipts(db: Reading, channel: number, run: number): Promise<void> {
  await sql`
    INSERT INTO receipt (channel_id, external_id, kind, occurred_at, book_date, currency, gross, tip, fee, payer_id,
                         document, invoice_id, item_id, note, refund_of, payout_ref, payout_id, run_id,
                         discount, method, site_id, country, region, fund)
    SELECT ${channel}, s.external_id, s.kind, s.occurred_at, s.book_date, s.currency, s.gross, s.tip, s.fee,
           coalesce(sp.id, (SELECT payer_id FROM channel WHERE id = ${channel})),
           s.document, v.id, i.id, s.note, s.refund_of, s.payout, p.id, ${run},
           s.discount, s.method, s.site_id, s.country, s.region, s.fund
    FROM temp.stage_receipt s
    LEFT JOIN temp.stage_payer sp ON sp.email = s.email AND sp.payer = s.payer AND sp.ref = s.payer_ref
    LEFT JOIN item i ON i.code = s.item
    LEFT JOIN invoice v ON v.number = s.document AND s.document <> ''
    LEFT JOIN payout p ON p.channel_id = ${channel} AND p.external_id = s.payout
    WHERE s.action = 'new' AND s.kind <> 'payout' ORDER BY s.line
  `.execute(db);
}

/** Keeps what the source says now of receipts that are here with other figures. */
export async function keepChanges(db: Reading, run: number): Promise<void> {
  await sql`
    INSERT INTO receipt_change (receipt_id, run_id, kind, gross, tip, fee, occurred_at, book_date)
    SELECT known_id, ${run}, kind, gross, tip, fee, occurred_at, book_date FROM temp.stage_receipt
    WHERE action = 'changed' ORDER BY line
    ON CONFLICT (receipt_id) DO UPDATE SET run_id = excluded.run_id, kind = excluded.kind, gross = excluded.gross,
      tip = excluded.tip, fee = excluded.fee, occurred_at = excluded.occurred_at, book_date = excluded.book_date
  `.execute(db);
}

/** Ties receipts to payouts that came later than they, or that the file now names. */
export async function linkPayouts(db: Reading, channel: number, run: number): Promise<void> {
  await sql`
    UPDATE receipt SET payout_ref = s.payout, payout_run_id = ${run},
      payout_id = (SELECT p.id FROM payout p WHERE p.channel_id = ${channel} AND p.external_id = s.payout)
    FROM temp.stage_receipt AS s
    WHERE receipt.id = s.known_id
      AND (s.action = 'updated' OR (s.action = 'changed' AND s.payout <> '' AND receipt.payout_ref = ''))
  `.execute(db);
  await sql`
    UPDATE receipt SET payout_id = p.id FROM payout AS p
    WHERE p.run_id = ${run} AND p.channel_id = ${channel} AND receipt.channel_id = ${channel}
      AND receipt.payout_ref = p.external_id AND receipt.payout_id IS NULL AND receipt.payout_ref <> ''
  `.execute(db);
}

/** Adds the receipts of these payouts up again. */
export async function totalPayouts(db: Reading, payouts: ReturnType<typeof sql>): Promise<void> {
  await sql`
    UPDATE payout SET receipt_count = t.n, receipt_gross = t.gross, receipt_fee = t.fee, unstated = t.unstated
    FROM (
      SELECT x.id, count(r.id) AS n, coalesce(sum(r.gross), 0) AS gross, coalesce(sum(r.fee), 0) AS fee,
             coalesce(sum(r.id IS NOT NULL AND r.fee IS NULL), 0) AS unstated
      FROM (${payouts}) AS x LEFT JOIN receipt r ON r.payout_id = x.id GROUP BY x.id
    ) AS t WHERE payout.id = t.id
  `.execute(db);
}
