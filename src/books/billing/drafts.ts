import { z } from 'zod';
import { add, sum, type Minor } from '@/core/money';
import { billLines } from '@/core/receivables';
import { done, refuse, type Command } from '../command';
import type { Reading } from '../store';
import { billInput, type BillInput } from './bill-input';

export interface DraftRow {
  readonly id: number;
  readonly payer: string;
  readonly lines: number;
  readonly gross: Minor;
  readonly changedAt: string;
  readonly actor: string;
}

/** Gross of a draft as far as its lines can be worked out, in minor units. */
async function grossOf(db: Reading, bill: BillInput): Promise<Minor> {
  const rates = new Map((await db.selectFrom('tax_code').select(['id', 'rate']).execute()).map((t) => [t.id, t.rate]));
  const billed = billLines(bill.lines.map((line) => ({ ...line, rate: rates.get(line.taxCode) ?? 0 })));
  return sum(billed.map(({ net, tax }) => add(net, tax)));
}

/** Keeps an invoice that is being written; a draft may lack anything. */
export const saveInvoiceDraft: Command<{ draft: number | null; bill: BillInput }, { draft: number }> = {
  name: 'save-invoice-draft',
  input: z.object({ draft: z.number().int().nullable(), bill: billInput }),
  async run({ db }, { draft, bill }, { now, actor }) {
    const row = {
      content: JSON.stringify(bill),
      payer_id: bill.payer,
      gross: await grossOf(db, bill),
      changed_at: now.toISOString(),
      actor: actor.name,
    };
    if (draft === null) {
      const { id } = await db.insertInto('invoice_draft').values(row).returning('id').executeTakeFirstOrThrow();
      return done({ draft: id }, 'Began an invoice', {
        command: 'drop-invoice-draft',
        input: { draft: id },
        label: 'drop the draft',
      });
    }
    const before = await db.selectFrom('invoice_draft').selectAll().where('id', '=', draft).executeTakeFirst();
    if (!before) return refuse({ code: 'not-found', what: 'draft', id: String(draft) });
    if (before.invoice_id !== null) return refuse(await issuedAs(db, before.invoice_id));
    if (before.content === row.content) return done({ draft }, null);
    await db.updateTable('invoice_draft').set(row).where('id', '=', draft).execute();
    return done({ draft }, 'Changed a draft of an invoice', {
      command: 'save-invoice-draft',
      input: { draft, bill: JSON.parse(before.content) as unknown },
      label: 'set the draft back',
    });
  },
};

export async function issuedAs(db: Reading, invoice: number) {
  const { number } = await db
    .selectFrom('invoice')
    .select('number')
    .where('id', '=', invoice)
    .executeTakeFirstOrThrow();
  return { code: 'draft-issued', invoice: number } as const;
}

/** Throws a draft away. */
export const dropInvoiceDraft: Command<{ draft: number }, null> = {
  name: 'drop-invoice-draft',
  input: z.object({ draft: z.number().int() }),
  async run({ db }, { draft }) {
    const row = await db.selectFrom('invoice_draft').selectAll().where('id', '=', draft).executeTakeFirst();
    if (!row || row.invoice_id !== null) return refuse({ code: 'not-found', what: 'draft', id: String(draft) });
    await db.deleteFrom('invoice_draft').where('id', '=', draft).execute();
    return done(null, 'Dropped a draft of an invoice', {
      command: 'save-invoice-draft',
      input: { draft: null, bill: JSON.parse(row.content) as unknown },
      label: 'take the draft back',
    });
  },
};

export async function listDrafts(db: Reading): Promise<DraftRow[]> {
  const rows = await db
    .selectFrom('invoice_draft')
    .leftJoin('payer', 'payer.id', 'invoice_draft.payer_id')
    .select(['invoice_draft.id', 'payer.name as payer', 'content', 'gross', 'changed_at as changedAt', 'actor'])
    .where('invoice_id', 'is', null)
    .orderBy('invoice_draft.id', 'desc')
    .limit(200)
    .execute();
  return rows.map(({ content, payer, ...row }) => ({
    ...row,
    payer: payer ?? '',
    lines: (JSON.parse(content) as BillInput).lines.length,
  }));
}

export async function draftBill(db: Reading, draft: number): Promise<BillInput | null> {
  const row = await db
    .selectFrom('invoice_draft')
    .select('content')
    .where('id', '=', draft)
    .where('invoice_id', 'is', null)
    .executeTakeFirst();
  return row ? (JSON.parse(row.content) as BillInput) : null;
}
