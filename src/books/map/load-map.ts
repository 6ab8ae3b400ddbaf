import type { AccountId, Because, DimensionBecause, Dimensions, MapOrigin, SaleLine } from '@/core/ledger';
import {
  AccountMap,
  RuleIndex,
  type Decided,
  type Decision,
  type Landing,
  type Layers,
  type MapRule,
  type MapSubject,
} from '@/core/map';
import type { Minor } from '@/core/money';
import { tenderKind, type TaxPart } from '@/core/channels';
import type { Refusal } from '../command';
import type { Reading } from '../store';
import { merged, putDefaults } from './defaults-of';
import { rulesInForce } from './rules-in-force';

/** A receipt as the map looks at it, with what its layers need beside. */
export interface MappedReceipt extends MapSubject {
  readonly payerName: string | null;
  /** What the user set on it, as kept with it. */
  readonly landing: string | null;
}

/** Where something is booked, and why. */
interface Booked {
  readonly account: AccountId;
  readonly because: Because;
}

interface Channel {
  readonly name: string;
  readonly clearing: AccountId;
  readonly giftCards: AccountId | null;
  readonly landing: Landing;
  /** What most of its receipts say, said once: that it holds them, that it states its fees, that it gives them back. */
  readonly held: Booked;
  readonly feeStated: Because;
  readonly feeGivenBack: Because;
}

const originOf = ({ layer, name }: Decided<unknown>): MapOrigin => ({ layer, name });

/** The account map of the books as it stands: its rules in force, and what each layer behind them decides. */
export class BooksMap {
  private readonly map: AccountMap;
  /** Landings that users set on receipts, parsed once each. */
  private readonly own = new Map<string, Landing>();

  private constructor(
    readonly rules: RuleIndex,
    private readonly channels: ReadonlyMap<number, Channel>,
    private readonly sites: ReadonlyMap<number, { readonly name: string; readonly cash: AccountId | null }>,
    private readonly items: ReadonlyMap<
      number,
      { readonly name: string; readonly landing: Landing; readonly now: number }
    >,
    private readonly payers: ReadonlyMap<number, Landing>,
    private readonly books: Landing,
    private readonly taxCodes: ReadonlyMap<number, TaxPart>,
    private readonly dimensionNames: ReadonlyMap<number, string>,
    private readonly valueNames: ReadonlyMap<number, string>,
    private readonly required: ReadonlyMap<AccountId, readonly number[]>,
    private readonly accountNames: ReadonlyMap<AccountId, string>,
    private readonly giftCards: ReadonlySet<AccountId>,
    private readonly chequesOnHand: AccountId | null,
  ) {
    this.map = new AccountMap(rules);
  }

  /** @param rules in place of the ones in force, for trying some on the past. */
  static async load(db: Reading, rules?: readonly MapRule[]): Promise<BooksMap> {
    const defaults = await db.selectFrom('map_default').selectAll().execute();
    const channels = await db.selectFrom('channel').selectAll().execute();
    const sites = await db.selectFrom('site').selectAll().execute();
    const items = await db.selectFrom('item').selectAll().execute();
    const taxCodes = await db.selectFrom('tax_code').selectAll().execute();
    const dimensions = await db.selectFrom('dimension').selectAll().execute();
    const values = await db.selectFrom('dimension_value').selectAll().execute();
    const required = await db.selectFrom('account_dimension').selectAll().execute();
    const accounts = await db.selectFrom('account').select(['id', 'code', 'name', 'role']).execute();
    const ofRole = (role: string) => accounts.flatMap((account) => (account.role === role ? [account.id] : []));
    const cheques = ofRole('cheques_on_hand');
    const byAccount = new Map<AccountId, number[]>();
    for (const { account_id, dimension_id } of required) {
      byAccount.set(account_id, [...(byAccount.get(account_id) ?? []), dimension_id]);
    }
    return new BooksMap(
      new RuleIndex(rules ?? (await rulesInForce(db))),
      new Map(
        channels.map((channel) => [
          channel.id,
          {
            name: channel.name,
            clearing: channel.clearing_account_id,
            giftCards: channel.gift_card_account_id,
            held: {
              account: channel.clearing_account_id,
              because: { why: 'held-by-channel', channel: channel.name },
            },
            feeStated: { why: 'fee-in-export', channel: channel.name },
            feeGivenBack: { why: 'fee-given-back', channel: channel.name },
            landing: merged(
              {
                deposit: channel.clearing_account_id,
                fees: channel.fee_account_id,
                ...(channel.income_account_id !== null && { income: channel.income_account_id }),
                ...(channel.tax_code_id !== null && { taxCode: channel.tax_code_id }),
              },
              putDefaults(defaults, 'channel', channel.id),
            ),
          },
        ]),
      ),
      new Map(sites.map((site) => [site.id, { name: site.name, cash: site.cash_account_id }])),
      new Map(
        items.map((item) => [
          item.id,
          {
            name: item.code,
            now: item.merged_into ?? item.id,
            landing: merged(
              { income: item.income_account_id, taxCode: item.tax_code_id },
              putDefaults(defaults, 'item', item.id),
            ),
          },
        ]),
      ),
      new Map(
        [...new Set(defaults.flatMap((row) => (row.layer === 'payer' ? [row.ref_id] : [])))].map((id) => [
          id,
          putDefaults(defaults, 'payer', id),
        ]),
      ),
      putDefaults(defaults, 'books', 1),
      new Map(taxCodes.map((tax) => [tax.id, { account: tax.account_id, code: tax.code, rate: tax.rate }])),
      new Map(dimensions.map((dimension) => [dimension.id, dimension.name])),
      new Map(values.map((value) => [value.id, value.name])),
      byAccount,
      new Map(accounts.map((account) => [account.id, `${account.code} ${account.name}`])),
      new Set(ofRole('gift_card_liability')),
      cheques.length === 1 ? cheques[0]! : null,
    );
  }

  private ownLanding(text: string | null): Landing | null {
    if (text === null) return null;
    let landing = this.own.get(text);
    if (landing === undefined) this.own.set(text, (landing = JSON.parse(text) as Landing));
    return landing;
  }

  private layersOf(receipt: MappedReceipt): Layers {
    const channel = this.channels.get(receipt.channel)!;
    const held = this.outsideOf(receipt, channel);
    return {
      receipt: this.ownLanding(receipt.landing),
      item: receipt.item === null ? null : (this.items.get(receipt.item) ?? null),
      payer:
        receipt.payer === null || !this.payers.has(receipt.payer)
          ? null
          : { name: receipt.payerName ?? '', landing: this.payers.get(receipt.payer)! },
      channel:
        held === null
          ? channel
          : { name: `${channel.name}, ${held.where}`, landing: { ...channel.landing, deposit: held.account } },
      books: { name: '', landing: this.books },
    };
  }

  /** Where money is that the channel never holds: a cash box, cheques, a gift card that was owed until now. */
  private outsideOf(receipt: MappedReceipt, channel: Channel): { account: AccountId; where: string } | null {
    switch (tenderKind(receipt.method)) {
      case 'cash': {
        const site = receipt.site === null ? undefined : this.sites.get(receipt.site);
        return site?.cash ? { account: site.cash, where: site.name } : null;
      }
      case 'cheque':
        return this.chequesOnHand === null ? null : { account: this.chequesOnHand, where: 'cheques' };
      case 'gift-card':
        return channel.giftCards === null ? null : { account: channel.giftCards, where: 'gift cards' };
      case 'channel':
        return null;
    }
  }

  /** Decides each field of a receipt. One that names an item which was merged lands where the item it is now does. */
  decide(receipt: MappedReceipt): Decision {
    const now = receipt.item === null ? null : (this.items.get(receipt.item)?.now ?? null);
    const looked = now === receipt.item ? receipt : { ...receipt, item: now };
    return this.map.decide(looked, this.layersOf(looked));
  }

  channelName(id: number): string {
    return this.channels.get(id)!.name;
  }

  /** Where a receipt was taken in, in words: its site, else its channel. */
  placeOf(receipt: MappedReceipt): string {
    return (
      (receipt.site === null ? undefined : this.sites.get(receipt.site)?.name) ?? this.channelName(receipt.channel)
    );
  }

  taxOf(decision: Decision): TaxPart | null {
    return decision.taxCode === null ? null : (this.taxCodes.get(decision.taxCode.value) ?? null);
  }

  dimensionsOf(decision: Decision): Dimensions {
    return [...decision.dimensions].map(([dimension, decided]) => [dimension, decided.value] as const);
  }

  private dimensionsBecause(decision: Decision): DimensionBecause[] {
    return [...decision.dimensions].map(([dimension, decided]) => ({
      ...originOf(decided),
      dimension: this.dimensionNames.get(dimension) ?? '',
      value: this.valueNames.get(decided.value) ?? '',
    }));
  }

  /** The channel's own account, which holds what is not deposited elsewhere. */
  clearing(receipt: MappedReceipt): Booked {
    return this.channels.get(receipt.channel)!.held;
  }

  /** Where a receipt is deposited and why: clearing in the ordinary case, else what decided otherwise. */
  deposit(receipt: MappedReceipt, decision: Decision): Booked {
    const channel = this.channels.get(receipt.channel)!;
    const { deposit } = decision;
    if (deposit === null || deposit.value === channel.clearing) return this.clearing(receipt);
    if (deposit.layer === 'channel' && deposit.value === channel.giftCards) {
      return { account: deposit.value, because: { why: 'gift-card-used' } };
    }
    return { account: deposit.value, because: { why: 'mapped', ...originOf(deposit) } };
  }

  /** Where its fee goes; the channel's own account needs no explanation but that the channel stated the fee. */
  fees(receipt: MappedReceipt, decision: Decision, fee: Minor | null): Booked {
    const fees = decision.fees!;
    if (fees.layer !== 'channel') return { account: fees.value, because: { why: 'mapped', ...originOf(fees) } };
    const { feeGivenBack, feeStated } = this.channels.get(receipt.channel)!;
    return { account: fees.value, because: (fee ?? 0) < 0 ? feeGivenBack : feeStated };
  }

  /** One line of a sale as decided, or what is missing to book it. */
  saleLine(
    decision: Decision,
    { price, discount, tax: given }: { readonly price: Minor; readonly discount: Minor; readonly tax: Minor | null },
    name: string,
  ): SaleLine | { readonly refusal: Refusal } {
    const { income } = decision;
    if (income === null) return { refusal: { code: 'nothing-decides', what: 'income account', receipt: name } };
    const dimensions = this.dimensionsOf(decision);
    const missing = this.required.get(income.value)?.find((id) => !decision.dimensions.has(id));
    if (missing !== undefined) {
      const [dimension, account] = [this.dimensionNames.get(missing) ?? '', this.accountNames.get(income.value) ?? ''];
      return { refusal: { code: 'dimension-missing', dimension, account, receipt: name } };
    }
    if (this.giftCards.has(income.value)) {
      // Owed until it is used; the tax of what it buys is due then (recipe 19).
      return { price, discount, income: income.value, because: { why: 'gift-card-sold' }, tax: null, dimensions };
    }
    const tax = this.taxOf(decision);
    const said = this.dimensionsBecause(decision);
    return {
      price,
      discount,
      income: income.value,
      because: {
        why: 'mapped',
        ...originOf(income),
        ...(income.rule !== null && { rule: income.rule }),
        ...(said.length > 0 && { dimensions: said }),
      },
      tax: tax && {
        ...tax,
        given,
        because: { why: 'tax-code', code: tax.code, rate: tax.rate, by: originOf(decision.taxCode!) },
      },
      dimensions,
    };
  }
}
