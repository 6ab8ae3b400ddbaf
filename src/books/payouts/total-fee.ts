import { sql } from 'kysely';
import type { Minor } from '@/core/money';

/**
 * The fee of a payout `p` whose channel gives only totals (recipe 21): what its receipts come to less its net, where
 * some of them state no fee. More than a tenth of gross is no fee but something missing, and stays a difference.
 * Minor units; 0 where there is none.
 */
export const TOTAL_FEE = sql<Minor>`(CASE
  WHEN p.unstated > 0 AND p.receipt_gross - p.receipt_fee - p.net BETWEEN 1 AND p.receipt_gross / 10
  THEN p.receipt_gross - p.receipt_fee - p.net ELSE 0 END)`;
