import { sql } from 'kysely';
import type { Reading } from '../store';

/** Name and email as they came. */
const SAID = sql`trim(stage_payer.payer || ' <' || stage_payer.email || '>')`;
/** Several payers have this email. */
const SHARED = sql`(stage_payer.email <> '' AND (
  SELECT count(*) FROM payer s WHERE s.email = stage_payer.email AND s.email <> '' AND s.merged_into IS NULL) > 1)`;

/** A staged table with `payer` and `email` (lower case) in it; receipts also have the channel's own `payer_ref`. */
type StagedTable = 'stage_receipt' | 'stage_invoice';

/**
 * Finds the payer of each staged row: by the channel's own id, by email and name, by an email that is one payer's, else by
 * exact name (where the row or the payer has no email), and makes those who are not there yet. Other names that payers are
 * known by count like their own. Ids that were new are kept with the payer found. Where an email came with another name
 * than its payer's, or is that of several, `said` tells so: somebody is asked. Leaves temp.stage_payer (payer, email, ref,
 * id, said) to join with.
 * @param channel whose ids the rows name, for receipts.
 */
export async function resolvePayers(db: Reading, staged: StagedTable, channel = 0): Promise<void> {
  const table = sql.raw(`temp.${staged}`);
  const ref = sql.raw(staged === 'stage_receipt' ? 'payer_ref' : "''");
  const run = (query: ReturnType<typeof sql>) => query.execute(db);
  await run(sql`DROP TABLE IF EXISTS temp.stage_payer`);
  await run(sql`
    CREATE TEMP TABLE stage_payer AS
    SELECT payer, email, ${ref} AS ref, CAST(NULL AS INTEGER) AS id, CAST(NULL AS TEXT) AS said, min(line) AS line
    FROM ${table} WHERE action = 'new' AND (payer <> '' OR email <> '' OR ${ref} <> '') GROUP BY 1, 2, 3
  `);
  const find = async () => {
    await run(sql`
      UPDATE temp.stage_payer SET id = x.payer_id FROM payer_external AS x
      WHERE stage_payer.id IS NULL AND stage_payer.ref <> '' AND x.channel_id = ${channel}
        AND x.external_id = stage_payer.ref
    `);
    await run(sql`
      UPDATE temp.stage_payer SET id = coalesce(
        (SELECT min(p.id) FROM payer p WHERE p.email = stage_payer.email AND p.email <> '' AND p.merged_into IS NULL
          AND p.name = stage_payer.payer COLLATE NOCASE),
        (SELECT a.payer_id FROM payer_alias a WHERE a.name = stage_payer.payer AND a.email = stage_payer.email))
      WHERE id IS NULL AND email <> ''
    `);
    await run(sql`
      UPDATE temp.stage_payer SET (id, said) = (
        SELECT p.id, CASE WHEN stage_payer.payer <> '' AND p.name <> p.email THEN ${SAID} END FROM payer p
        WHERE p.email = stage_payer.email AND p.email <> '' AND p.merged_into IS NULL
        GROUP BY p.email HAVING count(*) = 1
      ) WHERE id IS NULL AND email <> ''
    `);
    await run(sql`
      UPDATE temp.stage_payer SET id = (
        SELECT min(a.payer_id) FROM payer_alias a WHERE a.email = stage_payer.email AND a.email <> ''
        GROUP BY a.email HAVING count(DISTINCT a.payer_id) = 1
      ) WHERE id IS NULL AND email <> '' AND NOT ${SHARED}
    `);
    await run(sql`
      UPDATE temp.stage_payer SET id = coalesce(
        (SELECT min(p.id) FROM payer p
          WHERE p.name = stage_payer.payer AND (stage_payer.email = '' OR p.email = '') AND p.merged_into IS NULL),
        (SELECT min(a.payer_id) FROM payer_alias a
          WHERE a.name = stage_payer.payer AND (stage_payer.email = '' OR a.email = '')))
      WHERE id IS NULL AND payer <> '' AND NOT ${SHARED}
    `);
    await run(sql`
      INSERT INTO payer_external (channel_id, external_id, payer_id)
      SELECT ${channel}, ref, min(id) FROM temp.stage_payer WHERE ref <> '' AND id IS NOT NULL GROUP BY ref
      ON CONFLICT DO NOTHING
    `);
  };
  await find();
  // One payer for rows of one id, else of one email, else of one name.
  await run(sql`
    INSERT INTO payer (name, email)
    SELECT coalesce(nullif(payer, ''), nullif(email, ''), ref), email FROM (
      SELECT payer, email, ref, min(line) AS line FROM temp.stage_payer WHERE id IS NULL AND NOT ${SHARED}
      GROUP BY CASE WHEN email <> '' THEN email WHEN payer <> '' THEN char(0) || payer ELSE char(1) || ref END
    ) ORDER BY line
  `);
  await find();
  // Rows that say no more than an id: their payer is named by it.
  await run(sql`
    UPDATE temp.stage_payer SET id = (SELECT max(p.id) FROM payer p WHERE p.name = stage_payer.ref)
    WHERE id IS NULL AND ref <> '' AND NOT ${SHARED}
  `);
  await find();
  // Their email is that of several, and no name tells which: nobody is chosen.
  await run(sql`UPDATE temp.stage_payer SET said = ${SAID} WHERE id IS NULL AND ${SHARED}`);
  await run(sql`CREATE UNIQUE INDEX temp.stage_payer_key ON stage_payer (email, payer, ref)`);
}
