export const FINDING_CODES = [
  'empty-file',
  'not-text',
  'encoding',
  'encoding-unknown',
  'line-too-long',
  'too-many-records',
  'unclosed-quote',
  'stray-quote',
  'missing-columns',
  'repeated-column',
  'field-count',
  'missing-value',
  'bad-amount',
  'bad-date',
  'bad-time',
  'bad-currency',
  'bad-kind',
  'wrong-sign',
  'net-differs',
  'tip-too-large',
  'repeated-id',
  'not-xml',
  'doctype',
  'not-a-statement',
  'truncated',
  'missing-element',
  'does-not-foot',
  'balance-breaks',
  'control-total',
  'no-account',
  'dates-unclear',
  'other-currency',
  'other-account',
  'dates-reversed',
  'in-future',
  'bad-total',
  'bad-tax',
  'unknown-item',
  'unknown-tax-code',
  'other-figures',
  'other-payout',
  'fee-on-payout',
  'no-header',
  'not-json',
  'not-a-workbook',
  'formula',
  'unknown-site',
  'before-history',
  'tenders-differ',
  'not-a-movement',
] as const;
export type FindingCode = (typeof FINDING_CODES)[number];

/**
 * What a reader or an import found wrong, as data; sentences are made from it at the edge. A finding about a `record`
 * refuses that record alone, one about the `file` refuses all of it.
 */
export interface Finding {
  readonly scope: 'record' | 'file';
  readonly code: FindingCode;
  /** Line of the file, from 1; null where the file as a whole is meant. */
  readonly line: number | null;
  /** The id or number of the record, where it could be read. */
  readonly subject?: string;
  /** The column or element that is wrong. */
  readonly field?: string;
  readonly expected?: string;
  readonly found?: string;
  /** The last line of the record, where it stands in several. */
  readonly until?: number;
}

/** Files above these are refused: each stands for a way of exhausting memory, disk or patience. */
export const LIMITS = {
  /** Bytes in one file. */
  fileBytes: 200 * 1024 * 1024,
  /** Characters in one line: a file without line ends must not be held whole. */
  lineLength: 1024 * 1024,
  records: 2_000_000,
} as const;

/** Ends reading: thrown inside readers only and turned into a batch with one finding about the file. */
export class FileRefused extends Error {
  constructor(readonly finding: Finding) {
    super(finding.code);
  }
}

export function refuseFile(code: FindingCode, line: number | null, detail: Partial<Finding> = {}): never {
  throw new FileRefused({ ...detail, scope: 'file', code, line });
}

/** What a reader hands over at a time: a chunk's worth of records and of findings, in the order of the file. */
export interface Batch<T> {
  readonly records: readonly T[];
  readonly findings: readonly Finding[];
  /** Bytes of the file consumed so far, for progress. */
  readonly bytes: number;
}

export type ByteSource = AsyncIterable<Uint8Array>;

/** Runs a reader so that a refusal of the whole file arrives as its last batch and not as an exception. */
export async function* refusalsAsFindings<T>(batches: AsyncIterable<Batch<T>>): AsyncGenerator<Batch<T>> {
  let bytes = 0;
  try {
    for await (const batch of batches) {
      bytes = batch.bytes;
      yield batch;
    }
  } catch (error) {
    if (!(error instanceof FileRefused)) throw error;
    yield { records: [], findings: [error.finding], bytes };
  }
}
