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

/** Writes proposals with the ways they name; the one writer of them. */
export class ProposalWriter {
  private readonly proposal;
  private readonly way;
  private readonly part;

  constructor(
    tx: Writing,
    private readonly deep: 0 | 1,
  ) {
    this.proposal = tx.bulk('proposal', ['statement_line_id', 'certainty', 'book_date', 'amount', 'reasons', 'deep']);
    this.way = tx.bulk('proposal_way', ['statement_line_id', 'rank', 'laid', 'reasons', 'rest_account_id']);
    this.part = tx.bulk('proposal_part', ['statement_line_id', 'rank', 'no', 'kind', 'ref_id', 'amount', 'detail']);
  }

  /** Writes these, each of which must not be there. */
  write(proposals: readonly Proposal[], lines: ReadonlyMap<number, OfLine>): void {
    for (const { line, certainty, laid, reasons } of proposals) {
      const { date, amount } = lines.get(line)!;
      // What is laid is why; where nothing is, what is to be said of it.
      this.proposal.add(line, certainty, date, amount, JSON.stringify(laid ? laid.reasons : reasons), this.deep);
    }
    this.proposal.flush();
    const ways = proposals.flatMap(({ line, laid, others }) => [
      ...(laid ? [{ line, rank: 0, way: laid }] : []),
      ...others.map((way, index) => ({ line, rank: index + 1, way })),
    ]);
    for (const { line, rank, way } of ways) {
      this.way.add(line, rank, rank === 0 ? 1 : 0, JSON.stringify(way.reasons), way.restTo ?? null);
    }
    this.way.flush();
    for (const { line, rank, way } of ways) this.parts(line, rank, way);
    this.part.flush();
  }

  private parts(line: number, rank: number, { parts }: Explanation): void {
    parts.forEach((part, index) => {
      const amount = 'amount' in part ? part.amount : 0;
      const { kind, id } = part;
      let detail = {};
      if (kind === 'account') {
        const { dimensions, taxCode, rule, ruleId, payer } = part;
        detail = { dimensions, taxCode, rule, ruleId, payer };
      }
      this.part.add(line, rank, index + 1, kind, id, amount, JSON.stringify(detail));
    });
  }
}
