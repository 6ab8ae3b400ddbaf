import type { ParseArgsConfig } from 'node:util';
import { BRING_IN } from './bring-in';
import { LEDGER } from './ledger';
import { MATCH } from './match';
import type { Answer } from './output';
import type { Place } from './place';
import { SET_UP } from './set-up';

/** Every option that some command takes; all are words but those that say yes. */
export const OPTIONS = {
  data: { type: 'string' },
  actor: { type: 'string' },
  books: { type: 'string' },
  file: { type: 'string' },
  profile: { type: 'string' },
  channel: { type: 'string' },
  account: { type: 'string' },
  'as-of': { type: 'string' },
  limit: { type: 'string' },
  change: { type: 'string' },
  'dry-run': { type: 'boolean' },
  json: { type: 'boolean' },
  help: { type: 'boolean', short: 'h' },
} as const satisfies NonNullable<ParseArgsConfig['options']>;

type Values = {
  readonly [K in keyof typeof OPTIONS]?: (typeof OPTIONS)[K]['type'] extends 'boolean' ? boolean : string;
};

export interface EggCommand {
  /** What it takes, as it is shown. */
  readonly takes: string;
  readonly does: string;
  run(place: Place, options: Values, rest: readonly string[]): Promise<Answer>;
}

export type Options = Values;

export const COMMANDS: Readonly<Record<string, EggCommand>> = { ...SET_UP, ...BRING_IN, ...MATCH, ...LEDGER };

export function help(): string {
  const width = Math.max(...Object.entries(COMMANDS).map(([name, { takes }]) => `${name} ${takes}`.length));
  const lines = Object.entries(COMMANDS).map(
    ([name, { takes, does }]) => `  ${`${name} ${takes}`.padEnd(width)}  ${does}`,
  );
  return [
    'npm run -s egg -- <command> [options]',
    '',
    ...lines,
    '',
    '--books says which books, where there are several; --data where they are (else NEST_EGG_DATA, else ./data); --actor who it is.',
    '--json gives the answer, or why not, as data; --dry-run says what would be, and changes nothing. All of it: docs/command-line.md',
  ].join('\n');
}
