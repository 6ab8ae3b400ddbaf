import { sql } from 'kysely';
import type { Explanation, Proposal } from '@/core/matching';
import type { PlainDate } from '@/core/calendar';
import type { Minor } from '@/core/money';
import type { Reading, Writing } from '../store';

interface OfLine {
  readonly id: number;
  readonly date: PlainDate;
  readonly amount: Minor;
}

/**
 * Takes away what is said of these lines; `lines` selects their ids. Parts first, then ways: as many statements as tables, where
 * the cascade of the references would run one for every row, which takes four times as long.
 */
export async function forgetProposals(db: Reading, lines: ReturnType<typeof sql>): Promise<void> {
  for (const table of ['proposal_part', 'proposal_way', 'proposal'] as const) {
    await sql`DELETE FROM ${sql.table(table)} WHERE statement_line_id IN (${lines})`.execute(db);
  }
}

const amongIds = (lines: readonly number[]) => sql`SELECT value FROM json_each(${JSON.stringify(lines)})`;

/** Cells of a part and of a way, as they stand in their tables behind the line and the rank. */
type PartCells = readonly [no: number, kind: string, id: number, amount: number, detail: string];
type WayCells = readonly [
  rank: number,
  laid: 0 | 1,
  reasons: string,
  restTo: number | null,
  parts: readonly PartCells[],
];
/** All that is kept of what explains a line. */
type Cells = readonly [certainty: string, reasons: string, deep: 0 | 1, ways: readonly WayCells[]];

function partCells(part: Explanation['parts'][number], index: number): PartCells {
  const { kind, id } = part;
  const amount = 'amount' in part ? part.amount : 0;
  if (kind !== 'account') return [index + 1, kind, id, amount, '{}'];
  const { dimensions, taxCode, rule, ruleId, payer } = part;
  return [index + 1, kind, id, amount, JSON.stringify({ dimensions, taxCode, rule, ruleId, payer })];
}

/** What is laid has rank 0, and is why; where nothing is laid, what is to be said of it. */
function cellsOf({ certainty, laid, reasons, others }: Proposal, deep: 0 | 1): Cells {
  const way = ({ reasons: why, restTo, parts }: Explanation, rank: number): WayCells => [
    rank,
    rank === 0 ? 1 : 0,
    JSON.stringify(why),
    restTo ?? null,
    parts.map(partCells),
  ];
  const ways = others.map((other, index) => way(other, index + 1));
  return [certainty, JSON.stringify(laid ? laid.reasons : reasons), deep, laid ? [way(laid, 0), ...ways] : ways];
}

/** What is said of these lines so far, as the JSON of its cells. */
async function saidOf(db: Reading, lines: readonly number[]): Promise<Map<number, string>> {
  const { rows } = await sql<{ line: number; cells: string }>`
    SELECT q.statement_line_id AS line, json_array(q.certainty, q.reasons, q.deep, (
      SELECT json_group_array(json_array(w.rank, w.laid, w.reasons, w.rest_account_id, (
        SELECT json_group_array(json_array(x.no, x.kind, x.ref_id, x.amount, x.detail)) FROM (
          SELECT * FROM proposal_part WHERE statement_line_id = w.statement_line_id AND rank = w.rank ORDER BY no) AS x)))
      FROM (SELECT * FROM proposal_way WHERE statement_line_id = q.statement_line_id ORDER BY rank) AS w)) AS cells
    FROM proposal q WHERE q.statement_line_id IN (${amongIds(lines)})
  `.execute(db);
  return new Map(rows.map(({ line, cells }) => [line, cells]));
}

/** Writes what explains these lines, of which nothing may be said. */
function writeCells(tx: Writing, said: readonly (readonly [OfLine, Cells])[]): void {
  const proposal = tx.bulk('proposal', ['statement_line_id', 'book_date', 'amount', 'certainty', 'reasons', 'deep']);
  for (const [{ id, date, amount }, [certainty, reasons, deep]] of said)
    proposal.add(id, date, amount, certainty, reasons, deep);
  proposal.flush();
  const way = tx.bulk('proposal_way', ['statement_line_id', 'rank', 'laid', 'reasons', 'rest_account_id']);
  for (const [{ id }, [, , , ways]] of said)
    for (const [rank, laid, reasons, restTo] of ways) way.add(id, rank, laid, reasons, restTo);
  way.flush();
  const part = tx.bulk('proposal_part', ['statement_line_id', 'rank', 'no', 'kind', 'ref_id', 'amount', 'detail']);
  for (const [{ id }, [, , , ways]] of said)
    for (const [rank, , , , parts] of ways) for (const cells of parts) part.add(id, rank, ...cells);
  part.flush();
}

/**
 * Keeps what explains these lines in place of what was said of them; the one writer of proposals. Most that is asked again is
 * as it was, and is not written again.
 * @param deep whether a payout explains the line (0, as where nothing does) or something else that was looked for.
 */
export async function keepProposals(
  tx: Writing,
  proposals: readonly Proposal[],
  lines: ReadonlyMap<number, OfLine>,
  deep: (proposal: Proposal) => 0 | 1,
): Promise<void> {
  const before = await saidOf(
    tx.db,
    proposals.map(({ line }) => line),
  );
  const changed = proposals.flatMap((proposal) => {
    const cells = cellsOf(proposal, deep(proposal));
    const there = before.get(proposal.line);
    return there !== undefined && there === JSON.stringify(cells) ? [] : [[lines.get(proposal.line)!, cells] as const];
  });
  const stale = changed.flatMap(([{ id }]) => (before.has(id) ? [id] : []));
  if (stale.length > 0) await forgetProposals(tx.db, amongIds(stale));
  writeCells(tx, changed);
}
