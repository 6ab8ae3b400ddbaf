import { sql } from 'kysely';
import type { Reading } from '../store';

/** A staged table with `payer` and `email` (lower case) in it. */
type StagedTable = 'stage_receipt' | 'stage_invoice';

/**
 * Finds the payer of each staged row: by email, else by exact name (where the row or the payer has no email), and makes
 * those who are not there yet. Leaves temp.stage_payer (payer, email, id) to join with.
 */
export async function resolvePayers(db: Reading, staged: StagedTable): Promise<void> {
  const table = sql.raw(`temp.${staged}`);
  const run = (query: ReturnType<typeof sql>) => query.execute(db);
  await run(sql`DROP TABLE IF EXISTS temp.stage_payer`);
  await run(sql`
    CREATE TEMP TABLE stage_payer AS
    SELECT payer, email, CAST(NULL AS INTEGER) AS id, min(line) AS line
    FROM ${table} WHERE action = 'new' AND (payer <> '' OR email <> '') GROUP BY payer, email
  `);
  const find = async () => {
    await run(sql`
      UPDATE temp.stage_payer SET id = payer.id FROM payer
      WHERE stage_payer.id IS NULL AND stage_payer.email <> '' AND payer.email = stage_payer.email
    `);
    await run(sql`
      UPDATE temp.stage_payer SET id = (
        SELECT min(p.id) FROM payer p
        WHERE p.name = stage_payer.payer AND (stage_payer.email = '' OR p.email = '')
      ) WHERE id IS NULL
    `);
  };
  await find();
  await run(sql`
    INSERT INTO payer (name, email)
    SELECT coalesce(nullif(payer, ''), email), email FROM (
      SELECT payer, email, min(line) AS line FROM temp.stage_payer WHERE id IS NULL
      GROUP BY CASE WHEN email <> '' THEN email ELSE char(0) || payer END
    ) ORDER BY line
  `);
  await find();
  await run(sql`CREATE UNIQUE INDEX temp.stage_payer_key ON stage_payer (email, payer)`);
}
