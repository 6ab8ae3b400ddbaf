import type { Actor } from '@/books/command';
import type { ReceiptSource } from '@/books/receipts/import';
import type { SaidOfFile } from '@/books/receipts/sniff-file';
import type { StatementReading } from '@/books/statements/read-file';
import type { BeganBy, RunKind } from '@/books/store';

/** What a worker is asked to do, as plain data. */
export type Task =
  | {
      readonly kind: 'import';
      readonly what: RunKind;
      readonly file: { readonly name: string; readonly sha256: string; readonly bytes: number; readonly path: string };
      /** Receipts only: their channel, and how the file is read. */
      readonly receipts?: ReceiptSource;
      /** Statements that are tables only: how the file is read. */
      readonly statements?: StatementReading;
      readonly dryRun: boolean;
    }
  | {
      readonly kind: 'look-at-file';
      readonly path: string;
      readonly channel: number | null;
      readonly said: SaidOfFile;
    }
  | { readonly kind: 'look-at-statement'; readonly path: string; readonly said: SaidOfFile }
  | {
      /** Writes the refused rows of a file that was looked at into a file of their own. */
      readonly kind: 'refused-rows';
      readonly what: RunKind;
      readonly file: { readonly name: string; readonly sha256: string; readonly bytes: number; readonly path: string };
      readonly receipts?: ReceiptSource;
      readonly statements?: StatementReading;
      readonly blobs: string;
    }
  | {
      readonly kind: 'post';
      readonly what: 'receipts' | 'invoices';
      readonly input: unknown;
      readonly dryRun: boolean;
    }
  | { readonly kind: 'reverse-receipts'; readonly input: unknown; readonly dryRun: boolean }
  | { readonly kind: 'confirm-proven' | 'confirm-probable' | 'confirm-not-ours'; readonly input: unknown }
  | { readonly kind: 'try-rule'; readonly input: unknown }
  | {
      readonly kind: 'fetch';
      readonly connection: number;
      readonly beganBy: BeganBy;
      /** Where addresses without a host are: this server itself. */
      readonly origin: string;
      /** The folder that what is fetched is kept in. */
      readonly blobs: string;
    }
  | { readonly kind: 'map-layers' }
  | { readonly kind: 'post-again-list' }
  | { readonly kind: 'repost'; readonly input: unknown };

export interface WorkerInput {
  readonly books: string;
  readonly actor: Actor;
  readonly task: Task;
  readonly progress: SharedArrayBuffer;
}
