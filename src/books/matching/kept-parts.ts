import { sql, type RawBuilder } from 'kysely';
import { minor } from '@/core/money';
import type { SheetToConfirm } from './match-plan';
import { partInput, type PartInput } from './part-input';

/**
 * Parts as one JSON text, to be read by {@link partInputs}: a text for each sheet is read faster than a row for each part. `rows`
 * selects their kind, id, amount and detail in the order they are laid in.
 */
const partsAsJson = (rows: RawBuilder<unknown>): RawBuilder<string> =>
  sql<string>`(SELECT json_group_array(json_array(kind, id, amount, detail)) FROM (${rows}))`;

/** What is laid on the sheet of a line, in the way of this rank. */
export const laidParts = (line: RawBuilder<unknown>, rank: RawBuilder<unknown>): RawBuilder<string> =>
  partsAsJson(sql`
    SELECT kind, ref_id AS id, amount, detail FROM proposal_part
    WHERE statement_line_id = ${line} AND rank = ${rank} ORDER BY no`);

/** What a match was made of. */
export const matchParts = (match: RawBuilder<unknown>): RawBuilder<string> =>
  partsAsJson(sql`
    SELECT kind, ref_id AS id, gross AS amount, detail FROM match_part WHERE match_id = ${match} ORDER BY part_no`);

type KeptPart = readonly [kind: PartInput['kind'], id: number, amount: number, detail: string];

function partInputOf([kind, id, amount, detail]: KeptPart): PartInput {
  if (kind === 'account') return partInput.parse({ ...(JSON.parse(detail) as object), kind, id, amount });
  return kind === 'invoice' ? { kind, id, amount: minor(amount) } : { kind, id };
}

/** The parts again; what an account's part leaves unsaid is filled in. */
export const partInputs = (json: string): PartInput[] => (JSON.parse(json) as KeptPart[]).map(partInputOf);

/** A sheet as it is kept, of a line that is laid or of a match: reasons as JSON, parts for {@link partInputs}. */
export interface KeptSheet {
  readonly line: number;
  readonly restTo: SheetToConfirm['restTo'];
  readonly certainty: string;
  readonly reasons: string;
  readonly parts: string;
}

/** The sheet to confirm just as it is kept. */
export const sheetOf = ({ line, restTo, certainty, reasons, parts }: KeptSheet): SheetToConfirm => ({
  line,
  parts: partInputs(parts),
  restTo,
  laid: { certainty, reasons },
});
