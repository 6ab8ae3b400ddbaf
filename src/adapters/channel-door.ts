import {
  wireCheckoutMade,
  wirePage,
  wireReading,
  wireStatements,
  type WireCheckout,
  type WireCheckoutMade,
  type WireReading,
  type WireStatements,
} from '../formats/movements/wire';
import { askPatiently, DoorShut, type Patience } from './patience';

/** What a channel or bank is asked over the network. Whoever speaks another format implements the same questions. */
export interface ChannelDoor {
  /** Everything that changed after a change number, receipts and payouts alike, a page at a time. */
  movementsSince(cursor: number): AsyncGenerator<{ readonly items: readonly unknown[]; readonly next: number }>;
  /** What the channel holds now. */
  reading(): Promise<WireReading>;
  /** Statements handed out after a number. */
  statementsSince(cursor: number): AsyncGenerator<{ readonly items: WireStatements['items']; readonly next: number }>;
  /** How often something had to be asked again. */
  readonly retries: number;
}

/** What a channel is asked that takes payments over the network. */
export interface PayingDoor {
  /** Asks it to take a payment, and gives where to pay and the receipt's id to come. Asked twice, it is one payment. */
  checkout(wanted: WireCheckout): Promise<WireCheckoutMade>;
}

/** The door to a channel that speaks formats/movements over HTTP. */
export class HttpDoor implements ChannelDoor, PayingDoor {
  retries = 0;

  constructor(
    private readonly address: URL,
    private readonly secret: string,
    private readonly patience: Patience,
  ) {}

  private ask(path: string, cursor?: number): Promise<unknown> {
    const url = new URL(`${this.address.pathname.replace(/\/$/, '')}/${path}`, this.address);
    if (cursor !== undefined) url.searchParams.set('since', String(cursor));
    return askPatiently(url, { authorization: `Bearer ${this.secret}` }, this.patience, () => {
      this.retries++;
    });
  }

  async checkout(wanted: WireCheckout) {
    const url = new URL(`${this.address.pathname.replace(/\/$/, '')}/checkouts`, this.address);
    const headers = { authorization: `Bearer ${this.secret}`, 'content-type': 'application/json' };
    const answer = await askPatiently(url, headers, this.patience, () => this.retries++, JSON.stringify(wanted));
    return sensible(wireCheckoutMade, answer);
  }

  async *movementsSince(cursor: number) {
    yield* pages(cursor, async (at) => sensible(wirePage, await this.ask('movements', at)));
  }

  async reading() {
    return sensible(wireReading, await this.ask('balance'));
  }

  async *statementsSince(cursor: number) {
    yield* pages(cursor, async (at) => sensible(wireStatements, await this.ask('statements', at)));
  }
}

interface Page<T> {
  readonly items: readonly T[];
  readonly next: number;
  readonly more: boolean;
}

/** Page after page until the other side says there is no more; one that goes in a circle is given up. */
async function* pages<P extends Page<unknown>>(cursor: number, ask: (at: number) => Promise<P>): AsyncGenerator<P> {
  for (let at = cursor; ;) {
    const page = await ask(at);
    if (page.items.length > 0) yield page;
    if (!page.more) return;
    if (page.next <= at) throw new DoorShut({ why: 'senseless', found: `page after ${at} leads to ${page.next}` });
    at = page.next;
  }
}

function sensible<T>(
  schema: {
    safeParse(
      value: unknown,
    ):
      | { success: true; data: T }
      | { success: false; error: { issues: readonly { path: readonly PropertyKey[]; message: string }[] } };
  },
  value: unknown,
): T {
  const read = schema.safeParse(value);
  if (read.success) return read.data;
  const issue = read.error.issues[0]!;
  throw new DoorShut({ why: 'senseless', found: `${issue.path.map(String).join('.')} ${issue.message}`.trim() });
}
