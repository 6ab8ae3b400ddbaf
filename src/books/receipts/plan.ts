import { movementWord, receiptEntry, settling, type ReceiptPurpose } from '@/core/channels';
import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { AccountId, Entry, Tender } from '@/core/ledger';
import type { Decision } from '@/core/map';
import { add, minor, subtract, sum, ZERO, type Minor } from '@/core/money';
import { Rates } from '../currencies/rates';
import type { Refusal } from '../command';
import { BooksMap } from '../map/load-map';
import type { Reading } from '../store';
import { channelParts, type ChannelParts } from './channel-parts';
import { convertReceipt, type Converted } from './convert';
import { earlyPayments, type EarlyInvoice } from '../settling/early';
import { loadReceipts, type LoadedReceipt } from './load-receipts';
import { originalsOf, type Originals } from './originals';
import { saleLines } from './sale-lines';
import { notHeldOf, tendersOf } from './tenders';

export interface PlannedReceipt {
  readonly id: number;
  readonly name: string;
  readonly channel: number;
  readonly site: number | null;
  readonly date: PlainDate;
  /** In the books' own currency. */
  readonly gross: Minor;
  readonly revision: number;
  readonly memo: string;
  readonly entry: Entry;
  /** What of gross the channel's clearing account does not hold, in the channel's currency: cash, gift cards used. */
  readonly notHeld: Minor;
  /** Whether that is what was last decided of it. */
  readonly heldAsBefore: boolean;
  /** What clearing holds in the books' own currency; null where that is the channel's too. */
  readonly carried: Minor | null;
  readonly settles: {
    readonly invoice: number;
    /** By money, and by what is taken off for paying early. */
    readonly amount: Minor;
    readonly takenOff: Minor;
  } | null;
  /** What is kept for the payer of a receipt, or paid back of that. */
  readonly keeps: { readonly receipt: number; readonly amount: Minor } | null;
}

export type PlanResult = PlannedReceipt | { readonly id: number; readonly name: string; readonly refusal: Refusal };

type Refused = { readonly refusal: Refusal };

/** What was looked up for all receipts of a planning at once. */
interface Known {
  readonly originals: Originals;
  readonly collected: ReadonlyMap<number, PlainDate>;
  readonly early: ReadonlyMap<number, EarlyInvoice>;
}

/**
 * Plans the entries of receipts batch by batch, in the order given. What the receipts of one planning settle of their
 * invoices is carried along, so that two receipts for one invoice do not both take the same open amount.
 */
export class ReceiptPlanner {
  /** Paid so far per invoice, as far as this planning has touched it. */
  private readonly paid = new Map<number, Minor>();
  /** Kept for payers so far per receipt, likewise. */
  private readonly kept = new Map<number, Minor>();

  private constructor(
    private readonly map: BooksMap,
    private readonly channels: ReadonlyMap<number, ChannelParts>,
    private readonly receivable: AccountId,
    private readonly payerCredit: AccountId,
    private readonly closedThrough: PlainDate | null,
    private readonly rates: Rates,
    private readonly discounts: AccountId | null,
  ) {}

  static async open(db: Reading): Promise<ReceiptPlanner> {
    const books = await db.selectFrom('books').select('closed_through').executeTakeFirstOrThrow();
    const roles = await db
      .selectFrom('account')
      .select(['id', 'role'])
      .where('role', 'in', ['receivable', 'payer_credit', 'discounts'])
      .orderBy('id')
      .execute();
    const role = (name: string) => roles.find((account) => account.role === name)!.id;
    return new ReceiptPlanner(
      await BooksMap.load(db),
      await channelParts(db),
      role('receivable'),
      role('payer_credit'),
      books.closed_through,
      await Rates.load(db),
      roles.find((account) => account.role === 'discounts')?.id ?? null,
    );
  }

  /** Plans these receipts; each gives its entry or the reason why it cannot be posted. */
  async plan(db: Reading, ids: readonly number[]): Promise<PlanResult[]> {
    return this.planLoaded(db, await loadReceipts(db, ids));
  }

  /** Plans receipts that were looked up already, posted or not: what the map and the recipes say of them now. */
  async planLoaded(db: Reading, receipts: readonly LoadedReceipt[]): Promise<PlanResult[]> {
    const known = {
      originals: await originalsOf(db, receipts),
      collected: await this.collectedOn(db, receipts),
      early: await earlyPayments(
        db,
        receipts.flatMap(({ kind, invoice_discount: rate, invoice_id: id }) =>
          kind === 'receipt' && rate && id !== null ? [id] : [],
        ),
      ),
    };
    return receipts.map((receipt) => {
      const planned = this.planOne(receipt, known);
      return 'refusal' in planned ? { id: receipt.id, name: receipt.external_id, ...planned } : planned;
    });
  }

  /** What of each receipt's gross clearing will not hold, before it is posted; asked where it is paid in several ways. */
  notHeldOf(receipts: readonly LoadedReceipt[]): { readonly id: number; readonly notHeld: Minor }[] {
    return receipts.map((receipt) => {
      const { clearing } = this.channels.get(receipt.channel)!;
      const outside = receipt.tenders!.filter(({ tender }) => {
        const paid = { ...receipt, method: tender };
        return this.map.deposit(paid, this.map.decide(paid)).account !== clearing;
      });
      return { id: receipt.id, notHeld: sum(outside.map(({ amount }) => amount)) };
    });
  }

  /** The days on which debits were collected, of channels that count them as paid then: those of their payouts. */
  private async collectedOn(db: Reading, receipts: readonly LoadedReceipt[]): Promise<ReadonlyMap<number, PlainDate>> {
    const waiting = receipts.filter(({ channel }) => this.channels.get(channel)!.whenCollected);
    if (waiting.length === 0) return new Map();
    const { rows } = await sql<{ id: number; day: PlainDate }>`
      SELECT r.id, p.book_date AS day FROM receipt r JOIN payout p ON p.id = r.payout_id
      WHERE r.id IN (SELECT value FROM json_each(${JSON.stringify(waiting.map(({ id }) => id))}))
    `.execute(db);
    return new Map(rows.map(({ id, day }) => [id, day]));
  }

  private planOne(receipt: LoadedReceipt, known: Known): PlannedReceipt | Refused {
    const { originals, collected } = known;
    const { id, external_id: name } = receipt;
    const channel = this.channels.get(receipt.channel)!;
    const date = channel.whenCollected ? (collected.get(id) ?? null) : receipt.book_date;
    if (date === null) {
      return { refusal: { code: 'in-collection', receipt: name, channel: this.map.channelName(receipt.channel) } };
    }
    if (this.closedThrough !== null && date <= this.closedThrough) {
      return { refusal: { code: 'period-closed', date, closedThrough: this.closedThrough } };
    }
    const invoice = receipt.kind === 'chargeback' ? (originals.invoices.get(id)?.id ?? null) : receipt.invoice_id;
    if (receipt.kind === 'receipt' && invoice !== null && receipt.invoice_journal === null) {
      return { refusal: { code: 'invoice-not-posted', invoice: receipt.document, receipt: name } };
    }
    const converted = convertReceipt(receipt, this.rates);
    if ('refusal' in converted) return converted;
    const { money, foreign } = converted;
    const decision = this.map.decide(receipt);
    const tenders = receipt.tenders ? tendersOf(this.map, receipt, converted, channel) : undefined;
    const purpose = this.purposeOf(receipt, converted, known, decision, tenders);
    if ('refusal' in purpose) return purpose;
    const lacking = this.lacking(receipt, purpose, channel);
    if (lacking) return { refusal: lacking };
    const { settles, takenOff, kept } = settling(money, purpose);
    const whole = add(settles, takenOff);
    if (invoice !== null && whole !== 0) {
      const before = receipt.kind === 'chargeback' ? originals.invoices.get(id)!.paid : receipt.invoice_paid!;
      this.paid.set(invoice, add(this.paid.get(invoice) ?? before, whole));
    }
    const keeper = receipt.kind === 'refund' ? (originals.kept.get(id)?.receipt ?? id) : id;
    if (kept !== 0) this.kept.set(keeper, add(this.kept.get(keeper) ?? originals.kept.get(id)?.amount ?? ZERO, kept));
    const deposit = tenders ? this.map.clearing(receipt) : this.map.deposit(receipt, decision);
    const held = tenders
      ? sum(tenders.flatMap((tender) => (tender.account === channel.clearing ? [tender.amount] : [])))
      : deposit.account === channel.clearing
        ? money.gross
        : ZERO;
    const notHeld = notHeldOf(receipt, held, money.gross, tenders, channel);
    return {
      id,
      name,
      notHeld,
      heldAsBefore: notHeld === receipt.not_held,
      carried: foreign === null ? null : subtract(held, money.fee ?? ZERO),
      channel: receipt.channel,
      site: receipt.site,
      date,
      gross: money.gross,
      revision: receipt.revision + 1,
      memo: memoOf(receipt, channel.byDebit),
      entry: receiptEntry(
        money,
        purpose,
        {
          deposit,
          fees: this.map.fees(receipt, decision, receipt.fee),
          receivable: this.receivable,
          payerCredit: this.payerCredit,
          refunds: channel.refunds,
          tipsPayable: channel.tipsPayable,
          chargebacks: channel.chargebacks,
          discounts: channel.discounts ?? this.discounts,
        },
        deposit.account === channel.clearing ? foreign : null,
      ),
      settles: invoice !== null && whole !== 0 ? { invoice, amount: settles, takenOff } : null,
      keeps: kept === 0 ? null : { receipt: keeper, amount: kept },
    };
  }

  /** An account that this receipt needs and its channel has not. */
  private lacking(receipt: LoadedReceipt, purpose: ReceiptPurpose, channel: ChannelParts): Refusal | null {
    const missing = (account: string): Refusal => ({
      code: 'channel-account-missing',
      channel: this.map.channelName(receipt.channel),
      account,
      receipt: receipt.external_id,
    });
    const discounted = purpose.kind === 'sale' ? purpose.lines.some((line) => line.discount !== 0) : 'early' in purpose;
    if (discounted && channel.discounts === null && (purpose.kind === 'sale' || this.discounts === null)) {
      return missing('discounts');
    }
    const bears = purpose.kind === 'chargeback' && Math.abs(receipt.gross) > purpose.invoice;
    return bears && channel.chargebacks === null ? missing('chargebacks') : null;
  }

  private purposeOf(
    receipt: LoadedReceipt,
    { money, toBase }: Converted,
    { originals, early }: Known,
    decision: Decision,
    tenders: readonly Tender[] | undefined,
  ): ReceiptPurpose | Refused {
    const of = receipt.document || receipt.refund_of;
    if (receipt.kind === 'refund') {
      const tax = this.map.taxOf(decision);
      const fallback = tax === null ? [] : [{ ...tax, weight: 1 as Minor }];
      const taxed = originals.taxed.get(receipt.id) ?? fallback;
      const credit = originals.kept.get(receipt.id);
      const kept = credit ? (this.kept.get(credit.receipt) ?? credit.amount) : ZERO;
      const fromCredit = minor(Math.max(0, Math.min(kept, -subtract(money.gross, money.tip))));
      return { kind: 'refund', of, taxed, dimensions: this.map.dimensionsOf(decision), fromCredit };
    }
    if (receipt.kind === 'chargeback') {
      const original = originals.invoices.get(receipt.id);
      const { byDebit } = this.channels.get(receipt.channel)!;
      if (!original?.posted) return { kind: 'chargeback', of, byDebit, invoice: ZERO };
      const paid = this.paid.get(original.id) ?? original.paid;
      // Opened, it reopens what was paid; won, it settles what is open again.
      const invoice = receipt.gross < 0 ? paid : subtract(original.gross, paid);
      return { kind: 'chargeback', of: of || original.number, byDebit, invoice };
    }
    if (receipt.document !== '') {
      const open =
        receipt.invoice_id === null
          ? null
          : subtract(receipt.invoice_gross!, this.paid.get(receipt.invoice_id) ?? receipt.invoice_paid!);
      const allowed =
        open === null ? undefined : early.get(receipt.invoice_id!)?.taken(money.gross, open, receipt.book_date);
      return { kind: 'invoice', document: receipt.document, open, ...(allowed && { early: allowed }) };
    }
    const lines = saleLines(this.map, receipt, decision, subtract(money.gross, money.tip), toBase);
    return 'refusal' in lines ? lines : { kind: 'sale', lines: lines.sold, ...(tenders && { tenders }) };
  }
}

function memoOf(receipt: LoadedReceipt, byDebit: boolean): string {
  const things = receipt.lines ? `${receipt.lines.length} lines` : receipt.itemCode;
  const about = receipt.document || things || '';
  return [`${movementWord(receipt.kind, byDebit)} ${receipt.external_id}`, receipt.payerName, about]
    .filter(Boolean)
    .join(', ');
}
