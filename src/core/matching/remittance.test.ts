import fc from 'fast-check';
import { plainDate } from '../calendar';
import { minor } from '../money';
import {
  NameFinder,
  proposeInvoices,
  referenceKey,
  referenceKeysIn,
  subsetsTo,
  type OpenInvoice,
  type Proposal,
  type Remittance,
} from '.';

const DAY = plainDate('2026-11-09');
const payment = (id: number, amount: number, text: string, details: [number, string][] = []): Remittance => ({
  id,
  date: DAY,
  amount: minor(amount),
  keys: referenceKeysIn(text),
  text,
  details: details.map(([of, said]) => ({ date: DAY, amount: minor(of), keys: referenceKeysIn(said), text: said })),
});
const invoice = (id: number, payer: number, open: number, more: Partial<OpenInvoice> = {}): OpenInvoice => ({
  id,
  payer,
  number: `KS-${2000 + id}`,
  key: referenceKey(`KS-${2000 + id}`),
  due: plainDate(`2026-11-${String((id % 28) + 1).padStart(2, '0')}`),
  open: minor(open),
  early: null,
  ...more,
});
const NAMES = new NameFinder([
  { payer: 1, name: 'Orla Marrable' },
  { payer: 2, name: 'Cormorant Boatyard' },
  { payer: 3, name: 'Cormorant Boatyard West' },
]);
const propose = (lines: Remittance[], invoices: OpenInvoice[]) => proposeInvoices(lines, invoices, NAMES);
const one = (amount: number, text: string, invoices: OpenInvoice[]) =>
  propose([payment(1, amount, text)], invoices)[0]!;
const laid = (proposal: Proposal) =>
  proposal.laid?.parts.map((part) => (part.kind === 'invoice' ? [part.id, part.amount] : []));
const kinds = (proposal: Proposal) => [...proposal.reasons, ...(proposal.laid?.reasons ?? [])].map(({ kind }) => kind);

/** Worked figure E: 2 % in 10 days on 246.00 is 4.92, of which net 4.00 and tax 0.92. */
const early = {
  rate: 200 as never,
  until: plainDate('2026-11-12'),
  taxed: [{ taxCode: 1, net: minor(20000), tax: minor(4600) }],
};

describe('numbers in the text', () => {
  test('equal to the cent is proven, however the bank breaks the number', () => {
    for (const text of ['INV KS-2001', 'ks 2001 thanks', 'KS2001/MARRABLE']) {
      const found = one(12300, text, [invoice(1, 1, 12300), invoice(2, 1, 12300)]);
      expect([found.certainty, laid(found)]).toEqual(['proven', [[1, 12300]]]);
    }
  });
  test('two invoices, one with its discount in time, one without (worked figure E)', () => {
    const owed = [invoice(1, 1, 24600, { early }), invoice(2, 1, 6150)];
    const found = one(30258, 'KS-2001 AND KS-2002', owed);
    expect([found.certainty, laid(found)]).toEqual([
      'proven',
      [
        [1, 24108],
        [2, 6150],
      ],
    ]);
    expect(found.laid!.reasons).toContainEqual({ kind: 'taken-early', amount: 492 });
    // Not taken, it is paid whole; a day too late it may not be taken.
    expect(one(30750, 'KS-2001 KS-2002', owed).certainty).toBe('proven');
    const late = { ...early, until: plainDate('2026-11-08') };
    expect(one(24108, 'KS-2001', [invoice(1, 1, 24600, { early: late })])).toMatchObject({ certainty: 'probable' });
  });
  test('less is part of it, more is over, of several named the one it is whole', () => {
    const part = one(5000, 'KS-2001', [invoice(1, 1, 12300)]);
    expect([part.certainty, laid(part), kinds(part)]).toEqual([
      'probable',
      [[1, 5000]],
      ['numbers-in-text', 'in-part'],
    ]);
    const over = one(13000, 'KS-2001', [invoice(1, 1, 12300)]);
    expect([over.certainty, laid(over)]).toEqual(['probable', [[1, 12300]]]);
    expect(over.laid!.reasons).toContainEqual({ kind: 'over', amount: 700 });
    const whole = one(6150, 'KS-2001 OR KS-2002', [invoice(1, 1, 24600), invoice(2, 1, 6150)]);
    expect([whole.certainty, laid(whole)]).toEqual(['probable', [[2, 6150]]]);
  });
});

describe('the payer’s name', () => {
  test('the one invoice of the amount; all; the oldest; a set that is the only one', () => {
    expect(laid(one(700, 'MARRABLE ORLA', [invoice(1, 1, 700), invoice(2, 1, 800), invoice(3, 2, 700)]))).toEqual([
      [1, 700],
    ]);
    const owed = [invoice(1, 1, 700), invoice(2, 1, 800), invoice(3, 1, 950), invoice(4, 1, 5000)];
    const all = one(7450, 'ORLA MARRABLE', owed);
    expect([all.certainty, kinds(all)]).toEqual(['probable', ['name-in-text', 'all-open', 'equal-to-the-cent']]);
    expect(kinds(one(1500, 'ORLA MARRABLE', owed))).toContain('oldest-first');
    const set = one(5700, 'ORLA MARRABLE', owed);
    expect([set.certainty, laid(set), kinds(set).at(-1)]).toEqual([
      'probable',
      [
        [1, 700],
        [4, 5000],
      ],
      'no-other-of',
    ]);
  });
  test('several of one amount are open, each named; of none the payer is named all the same', () => {
    const same = one(700, 'ORLA MARRABLE', [invoice(1, 1, 700), invoice(2, 1, 700)]);
    expect([same.certainty, same.laid, same.others.map(({ parts }) => parts[0]!.id)]).toEqual(['open', null, [1, 2]]);
    const none = one(123, 'ORLA MARRABLE', [invoice(1, 1, 700)]);
    expect(none).toMatchObject({ certainty: 'none', reasons: [{ kind: 'owes-otherwise', count: 1, open: 700 }] });
  });
  test('above ten open invoices a set is never called the only one', () => {
    const owed = Array.from({ length: 11 }, (_, n) => invoice(n + 1, 1, 1000 * 2 ** n + 7));
    const found = one(owed[0]!.open + owed[10]!.open, 'ORLA MARRABLE', owed);
    expect([found.certainty, found.laid, found.others.length]).toEqual(['open', null, 1]);
  });
  test('a longer name covers the shorter one in it; two payers named name nobody', () => {
    expect(NAMES.find('PAID BY CORMORANT BOATYARD WEST').map(({ payer }) => payer)).toEqual([3]);
    const two = one(700, 'ORLA MARRABLE FOR CORMORANT BOATYARD', [invoice(1, 1, 700), invoice(2, 2, 900)]);
    expect(two.certainty).toBe('open');
  });
  test('an amount alone is shown and never laid', () => {
    expect(one(700, 'TRANSFER', [invoice(1, 1, 700)])).toMatchObject({ certainty: 'open', laid: null });
    expect(one(701, 'TRANSFER', [invoice(1, 1, 700)])).toMatchObject({ certainty: 'none' });
  });
});

test('a sum of payments is as sure as the least sure of them', () => {
  const owed = [invoice(1, 1, 24600), invoice(2, 2, 6150)];
  const sum = (second: string) =>
    propose(
      [
        payment(1, 30750, 'COLLECTED', [
          [24600, 'KS-2001'],
          [6150, second],
        ]),
      ],
      owed,
    )[0]!;
  expect([sum('KS-2002').certainty, laid(sum('KS-2002'))]).toEqual([
    'proven',
    [
      [1, 24600],
      [2, 6150],
    ],
  ]);
  expect(sum('CORMORANT BOATYARD').certainty).toBe('probable');
  expect(sum('NOBODY KNOWN').certainty).toBe('open');
});

test('an invoice that two deposits claim is sure for neither', () => {
  const found = propose([payment(1, 700, 'KS-2001'), payment(2, 700, 'KS-2001 AGAIN')], [invoice(1, 1, 700)]);
  expect(found.map(({ certainty }) => certainty)).toEqual(['open', 'open']);
  for (const { others } of found) expect(others[0]!.parts).toEqual([{ kind: 'invoice', id: 1, amount: 700 }]);
  const halves = propose([payment(1, 300, 'KS-2001'), payment(2, 400, 'KS-2001')], [invoice(1, 1, 700)]);
  expect(halves.map(({ certainty }) => certainty)).toEqual(['probable', 'probable']);
});

describe('properties', () => {
  const world = fc.record({
    invoices: fc.array(fc.record({ payer: fc.integer({ min: 1, max: 3 }), open: fc.integer({ min: 1, max: 6 }) }), {
      maxLength: 7,
    }),
    lines: fc.array(
      fc.record({
        amount: fc.integer({ min: 1, max: 12 }),
        says: fc.constantFrom('', 'ORLA MARRABLE', 'CORMORANT BOATYARD', 'KS-2001', 'KS-2002 KS-2003'),
      }),
      { maxLength: 5 },
    ),
  });
  const build = (w: { invoices: { payer: number; open: number }[]; lines: { amount: number; says: string }[] }) => ({
    owed: w.invoices.map(({ payer, open }, n) => invoice(n + 1, payer, open * 100)),
    lines: w.lines.map(({ amount, says }, n) => payment(n + 1, amount * 100, says)),
  });

  test('what is laid comes to the amount or less, and no invoice is laid further than it is open', () => {
    fc.assert(
      fc.property(world, (w) => {
        const { owed, lines } = build(w);
        const found = propose(lines, owed);
        const used = new Map<number, number>();
        for (const { line, laid: way, certainty } of found) {
          const parts = (way?.parts ?? []).flatMap((part) => (part.kind === 'invoice' ? [part] : []));
          const total = parts.reduce((sum, part) => sum + part.amount, 0);
          expect(total).toBeLessThanOrEqual(lines.find(({ id }) => id === line)!.amount);
          if (certainty === 'proven') expect(total).toBe(lines.find(({ id }) => id === line)!.amount);
          for (const part of parts) used.set(part.id, (used.get(part.id) ?? 0) + part.amount);
        }
        for (const [id, amount] of used) expect(amount).toBeLessThanOrEqual(owed.find((one) => one.id === id)!.open);
      }),
      { numRuns: 400 },
    );
  });
  test('the answer does not depend on the order of the input', () => {
    fc.assert(
      fc.property(world, (w) => {
        const { owed, lines } = build(w);
        expect(propose([...lines].reverse(), [...owed].reverse())).toEqual(propose(lines, owed));
      }),
    );
  });
});

describe('sums of sets', () => {
  const brute = (amounts: readonly number[], total: number) => {
    let count = 0;
    for (let bits = 1; bits < 2 ** amounts.length; bits++) {
      if (amounts.reduce((sum, amount, at) => sum + ((bits >> at) & 1 ? amount : 0), 0) === total) count++;
    }
    return count;
  };
  test('“only one” is true by brute force, and what is found adds up', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -3, max: 9 }), { maxLength: 10 }),
        fc.integer({ min: -2, max: 20 }),
        (amounts, total) => {
          const found = subsetsTo(amounts, total)!;
          expect(found.length).toBe(Math.min(2, brute(amounts, total)));
          for (const set of found) expect(set.reduce((sum, at) => sum + amounts[at]!, 0)).toBe(total);
        },
      ),
      { numRuns: 500 },
    );
  });
  test('more than can be searched is said, not guessed at', () => {
    expect(subsetsTo(new Array<number>(25).fill(1), 3)).toBeNull();
    expect(subsetsTo(new Array<number>(24).fill(1), 3)).toHaveLength(2);
  });
});

describe('what could be something else is not laid', () => {
  test('one of their invoices has the amount, and two others have it together', () => {
    const owed = [invoice(1, 1, 24600), invoice(2, 1, 12300), invoice(3, 1, 12300)];
    const found = one(24600, 'ORLA MARRABLE', owed);
    expect([found.certainty, found.laid]).toEqual(['open', null]);
    expect(found.others.map(({ parts }) => parts.map(({ id }) => id))).toEqual([[1], [2, 3]]);
    // Without the two it is the one.
    expect(one(24600, 'ORLA MARRABLE', owed.slice(0, 2)).certainty).toBe('probable');
  });

  test('too much for the invoices of two payers is nobody’s to keep', () => {
    const owed = [invoice(1, 1, 5000), invoice(2, 2, 7000)];
    const found = one(20000, 'KS-2001 KS-2002', owed);
    expect([found.certainty, found.laid]).toEqual(['open', null]);
    expect(kinds(found)).toContain('over');
    expect(one(20000, 'KS-2001', owed).certainty).toBe('probable');
  });

  test('a part of the invoice that is named, where one of a number next to it has the whole', () => {
    const owed = [invoice(1, 1, 9000), invoice(2, 2, 5000), invoice(30, 2, 5000)];
    const found = one(5000, 'SOMEBODY KS-2001', owed);
    expect([found.certainty, found.laid]).toEqual(['open', null]);
    // KS-2030 is two letters off.
    expect(found.others.map(({ parts }) => parts.map(({ id }) => id))).toEqual([[1], [2]]);
    expect(
      one(
        5000,
        'SOMEBODY KS-2001',
        owed.filter(({ id }) => id !== 2),
      ).certainty,
    ).toBe('probable');
  });
});
