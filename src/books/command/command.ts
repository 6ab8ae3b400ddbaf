import { z } from 'zod';
import { BooksBusy, type BooksFile, type Reading, type Writing } from '../store';
import type { Refusal } from './refusal';

/** Who acts, as the audit names them. */
export interface Actor {
  readonly name: string;
}

/** What takes a change back: the name of a command and its input. */
export interface Undo {
  readonly command: string;
  readonly input: unknown;
  /** What the undoing does, in words: "reverse receipt R-12". */
  readonly label: string;
}

/** What a command did, for the audit and for who called it. */
export interface Done<T> {
  readonly value: T;
  /** One sentence in the past tense with the number in it. Null: nothing was changed, nothing is recorded. */
  readonly summary: string | null;
  readonly undo?: Undo;
  /** The audit row of the change that this one takes back. */
  readonly undoes?: number;
}

export type Outcome<T> = { readonly refusal: Refusal } | { readonly done: Done<T> };

export const refuse = (refusal: Refusal): { refusal: Refusal } => ({ refusal });
export const done = <T>(value: T, summary: string | null, undo?: Undo): { done: Done<T> } => ({
  done: { value, summary, ...(undo && { undo }) },
});

export type Result<T> =
  | { readonly ok: true; readonly value: T; readonly change: Change | null }
  | { readonly ok: false; readonly refusal: Refusal };

/** The audit row of a change that stands. */
export interface Change {
  readonly audit: number;
  readonly summary: string;
  readonly undoLabel: string | null;
}

export interface CommandContext {
  readonly actor: Actor;
  /** The moment of the change, UTC. */
  readonly now: Date;
  readonly progress: Progress;
  /** It is rolled back at the end: what nobody sees of it need not be worked out. */
  readonly dryRun?: boolean;
}

/** How far a long command is, and whether it should stop. */
export interface Progress {
  /** Tells how much is done, of how much, of what. */
  report(doing: string, done: number, total: number): void;
  /** True once the user wants it to stop; the command then rolls back. */
  readonly cancelled: boolean;
}

export const NO_PROGRESS: Progress = { report: () => {}, cancelled: false };

/** Thrown inside a command that saw that it was cancelled; becomes the refusal `cancelled`. */
export class Cancelled extends Error {}

export interface Command<I, T> {
  readonly name: string;
  readonly input: z.ZodType<I>;
  readonly run: (tx: Writing, input: I, context: CommandContext) => Promise<Outcome<T>>;
}

export interface RunOptions {
  readonly actor: Actor;
  readonly now?: Date;
  readonly progress?: Progress;
  /** Gives the exact effect and then rolls it back. */
  readonly dryRun?: boolean;
}

function invalidInput(error: z.ZodError): Refusal {
  const issue = error.issues[0]!;
  return { code: 'invalid-input', field: issue.path.join('.') || 'input', expected: issue.message };
}

/** Tells the errors a user can cause, however they came up from the database, from bugs, which are thrown on. */
function refusalOf(error: unknown): Refusal {
  if (error instanceof BooksBusy) return { code: 'books-busy' };
  if (error instanceof Cancelled) return { code: 'cancelled' };
  throw error;
}

/** Writes the audit row of a change in the change's own transaction. */
export async function writeAudit(
  db: Reading,
  command: string,
  input: unknown,
  { summary, undo, undoes }: Pick<Done<unknown>, 'summary' | 'undo' | 'undoes'>,
  context: CommandContext,
): Promise<Change | null> {
  if (summary === null) return null;
  const { id } = await db
    .insertInto('audit')
    .values({
      at: context.now.toISOString(),
      actor: context.actor.name,
      command,
      summary,
      detail: JSON.stringify(input),
      undo: undo ? JSON.stringify(undo) : null,
      undoes: undoes ?? null,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  return { audit: id, summary, undoLabel: undo?.label ?? null };
}

/**
 * Runs a command: checks its input, then does all of it in one transaction with one audit row, or nothing. A dry run
 * goes the same way and is rolled back at the end, so that what it shows is what would be written.
 */
export async function runCommand<I, T>(
  books: BooksFile,
  command: Command<I, T>,
  input: unknown,
  options: RunOptions,
): Promise<Result<T>> {
  const parsed = command.input.safeParse(input);
  if (!parsed.success) return { ok: false, refusal: invalidInput(parsed.error) };
  const context: CommandContext = {
    actor: options.actor,
    now: options.now ?? new Date(),
    progress: options.progress ?? NO_PROGRESS,
    dryRun: options.dryRun === true,
  };
  try {
    return await books.write<Result<T>>(
      async (tx) => {
        const outcome = await command.run(tx, parsed.data, context);
        if ('refusal' in outcome) return { ok: false, refusal: outcome.refusal };
        const change = options.dryRun
          ? null
          : await writeAudit(tx.db, command.name, parsed.data, outcome.done, context);
        return { ok: true, value: outcome.done.value, change };
      },
      (result) => result.ok && !options.dryRun,
    );
  } catch (error) {
    return { ok: false, refusal: refusalOf(error) };
  }
}
