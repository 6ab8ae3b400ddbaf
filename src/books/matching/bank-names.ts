import { sql } from 'kysely';
import { z } from 'zod';
import type { PlainDate } from '@/core/calendar';
import { NameFinder } from '@/core/matching';
import { done, refuse, type Command } from '../command';
import type { Reading } from '../store';
import { askAgain } from './ask-again';

/** A payer who appears in the bank's text under words that are none of their names. */
export interface BankName {
  readonly payer: number;
  readonly name: string;
  /** What the bank calls the other party. */
  readonly said: string;
  /** Kept as theirs, so that proposals go by it; only told by deposits; or told and not to be offered again. */
  readonly state: 'kept' | 'told' | 'forgotten';
  /** Confirmed deposits under it that settled their invoices, and the day of the last; null where there is none. */
  readonly count: number;
  readonly last: PlainDate | null;
}

/** Names that deposits told are shown up to here, the newest; those that are kept all are. */
const MOST = 500;

/** How payers appear at the bank beside their names: what is kept, then what confirmed deposits of their invoices told. */
export async function bankNames(db: Reading): Promise<BankName[]> {
  const { rows } = await sql<BankName & { names: string }>`
    WITH told AS (
      SELECT i.payer_id AS payer, l.counterparty AS said, count(DISTINCT l.id) AS count, max(l.book_date) AS last
      FROM match_part p JOIN invoice i ON i.id = p.ref_id
      JOIN match_line m ON m.match_id = p.match_id AND m.live = 1 JOIN statement_line l ON l.id = m.statement_line_id
      WHERE p.kind = 'invoice' AND p.live = 1 AND l.counterparty <> '' GROUP BY 1, 2),
    known AS (
      SELECT a.payer_id AS payer, a.name AS said, 'kept' AS state, coalesce(t.count, 0) AS count, t.last
      FROM payer_alias a LEFT JOIN told t ON t.payer = a.payer_id AND t.said = a.name WHERE a.at_bank = 1
      UNION ALL SELECT * FROM (
        SELECT t.payer, t.said, iif(f.name IS NULL, 'told', 'forgotten'), t.count, t.last
        FROM told t LEFT JOIN forgotten_name f ON f.payer_id = t.payer AND f.name = t.said
        WHERE NOT EXISTS (SELECT 1 FROM payer_alias a WHERE a.payer_id = t.payer AND a.name = t.said AND a.at_bank = 1)
        ORDER BY t.last DESC LIMIT ${MOST}))
    SELECT k.payer, y.name, k.said, k.state, k.count, k.last, y.name || char(10) || coalesce((
      SELECT group_concat(name, char(10)) FROM payer_alias a WHERE a.payer_id = y.id AND a.name <> ''), '') AS names
    FROM known k JOIN payer y ON y.id = k.payer ORDER BY k.state = 'kept' DESC, k.last DESC, k.said, y.name
  `.execute(db);
  return rows.flatMap(({ names, ...row }) => (row.state === 'kept' || !isNamed(row.said, names) ? [row] : []));
}

/** Whether what the bank says is one of these names already. */
function isNamed(said: string, names: string): boolean {
  const known = names.split('\n').filter(Boolean);
  return new NameFinder(known.map((name) => ({ payer: 1, name }))).find(said).length > 0;
}

const nameInput = z.string().trim().min(1).max(200);

/**
 * Keeps a name under which a payer appears at the bank: deposits that say it are theirs. One that was kept for somebody else
 * is theirs from then on. Not kept, it is forgotten. Refuses a payer who is not there, and a name that payers have for
 * another reason than the bank.
 */
export const keepBankName: Command<{ payer: number; name: string; keep: boolean }, null> = {
  name: 'keep-bank-name',
  input: z.object({ payer: z.number().int(), name: nameInput, keep: z.boolean() }),
  async run(tx, { payer, name, keep }, context) {
    const { db } = tx;
    const row = await db.selectFrom('payer').select('name').where('id', '=', payer).executeTakeFirst();
    if (!row) return refuse({ code: 'not-found', what: 'payer', id: String(payer) });
    const here = db.selectFrom('payer_alias').where('name', '=', name).where('email', '=', '');
    const there = await here.select(['payer_id as payer', 'at_bank']).executeTakeFirst();
    if (!keep) {
      if (there?.payer !== payer || there.at_bank === 0) return done(null, null);
      await db.deleteFrom('payer_alias').where('name', '=', name).where('email', '=', '').execute();
      await askAgain(tx, context);
      return done(null, `Forgot that ${row.name} appears as ${name}`, {
        command: 'keep-bank-name',
        input: { payer, name, keep: true },
        label: `keep ${name}`,
      });
    }
    if (there && (there.at_bank === 0 || there.payer === payer))
      return refuse({ code: 'name-taken', what: 'name at the bank', name });
    if (there) await db.deleteFrom('payer_alias').where('name', '=', name).where('email', '=', '').execute();
    await db.insertInto('payer_alias').values({ payer_id: payer, name, email: '', at_bank: 1 }).execute();
    await askAgain(tx, context);
    return done(null, `${row.name} appears at the bank as ${name}`, {
      command: 'keep-bank-name',
      input: there ? { payer: there.payer, name, keep: true } : { payer, name, keep: false },
      label: there ? `give ${name} back` : `forget ${name}`,
    });
  },
};

/** A name that deposits told is not offered again, or is. */
export const forgetBankName: Command<{ payer: number; name: string; forget: boolean }, null> = {
  name: 'forget-bank-name',
  input: z.object({ payer: z.number().int(), name: nameInput, forget: z.boolean() }),
  async run({ db }, { payer, name, forget }) {
    const row = await db.selectFrom('payer').select('name').where('id', '=', payer).executeTakeFirst();
    if (!row) return refuse({ code: 'not-found', what: 'payer', id: String(payer) });
    const here = db.selectFrom('forgotten_name').where('payer_id', '=', payer).where('name', '=', name);
    const there = (await here.select('name').executeTakeFirst()) !== undefined;
    if (there === forget) return done(null, null);
    if (forget) await db.insertInto('forgotten_name').values({ payer_id: payer, name }).execute();
    else await db.deleteFrom('forgotten_name').where('payer_id', '=', payer).where('name', '=', name).execute();
    return done(null, `${forget ? 'Forgot' : 'Remembered'} that the bank calls ${row.name} ${name}`, {
      command: 'forget-bank-name',
      input: { payer, name, forget: !forget },
      label: forget ? `remember ${name}` : `forget ${name} again`,
    });
  },
};
