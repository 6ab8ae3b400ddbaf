import type { Generated } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { AccountId } from '@/core/ledger';
import type { Currency, Minor } from '@/core/money';

export interface ConnectionTable {
  id: Generated<number>;
  channel_id: number | null;
  account_id: AccountId | null;
  address: string;
  secret: string;
  cursor: Generated<number>;
  schedule: string;
  scheduled_to: string;
  mail_to: Generated<string>;
}

export type BeganBy = 'hand' | 'schedule' | 'event';

export interface FetchRunTable {
  id: Generated<number>;
  connection_id: number;
  began_by: BeganBy;
  actor: string;
  started_at: string;
  ended_at: string;
  outcome: 'done' | 'failed' | 'cancelled';
  added: number;
  changed: number;
  refused: number;
  posted: number;
  retries: number;
  why: string;
  run_id: number | null;
  mailed_to: string;
}

export interface ChannelEventTable {
  channel_id: number;
  event_id: string;
  made_at: string;
  received_at: string;
  about: string;
  fetch_run_id: number | null;
}

export interface ReadingTable {
  id: Generated<number>;
  channel_id: number;
  read_at: string;
  book_date: PlainDate;
  currency: Currency;
  amount: Minor;
}

export interface MailTable {
  id: Generated<number>;
  made_at: string;
  recipient: string;
  subject: string;
  body: string;
  sent_at: string | null;
}
