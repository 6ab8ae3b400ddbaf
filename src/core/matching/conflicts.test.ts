import fc from 'fast-check';
import { settleConflicts, type Certainty, type ProposedPart, type Proposal } from '.';

const laid = (line: number, certainty: Certainty, ...parts: ProposedPart[]): Proposal => ({
  line,
  certainty,
  laid: { parts, reasons: [] },
  reasons: [],
  others: [],
});
const receipt = (id: number): ProposedPart => ({ kind: 'receipt', id });
const told = (proposals: readonly Proposal[]) => settleConflicts(proposals).map(({ certainty }) => certainty);

test('the surer keeps what two lay; as sure as each other, neither does', () => {
  expect(told([laid(1, 'proven', receipt(1)), laid(2, 'probable', receipt(1), receipt(2))])).toEqual([
    'proven',
    'open',
  ]);
  const both = settleConflicts([laid(1, 'probable', receipt(1)), laid(2, 'probable', receipt(1))]);
  expect(both).toMatchObject([
    {
      certainty: 'open',
      laid: null,
      reasons: [{ kind: 'claimed-twice', what: 'receipt' }],
      others: [{ parts: [receipt(1)] }],
    },
    { certainty: 'open', laid: null },
  ]);
});

test('two lines laid on each other share a payout; a third that wants it does not get it', () => {
  const payout: ProposedPart = { kind: 'payout', id: 7 };
  const pair = [laid(1, 'proven', payout, { kind: 'line', id: 2 }), laid(2, 'proven', payout, { kind: 'line', id: 1 })];
  expect(told(pair)).toEqual(['proven', 'proven']);
  expect(told([...pair, laid(3, 'probable', payout)])).toEqual(['proven', 'proven', 'open']);
});

test('an invoice may be shared, as far as it is open, and an account is no thing', () => {
  const shared: ProposedPart[] = [
    { kind: 'invoice', id: 1, amount: 5 as never },
    {
      kind: 'account',
      id: 1,
      amount: 5 as never,
      dimensions: {},
      taxCode: null,
      rule: null,
      ruleId: null,
      payer: null,
    },
  ];
  expect(told(shared.flatMap((part) => [laid(1, 'proven', part), laid(2, 'probable', part)]))).toEqual([
    'proven',
    'probable',
    'proven',
    'probable',
  ]);
});

test('whatever is laid, nothing is laid twice afterwards, and the order does not matter', () => {
  const one = fc.record({
    certainty: fc.constantFrom<Certainty>('proven', 'probable'),
    ids: fc.uniqueArray(fc.integer({ min: 1, max: 6 }), { minLength: 1, maxLength: 3 }),
  });
  fc.assert(
    fc.property(fc.array(one, { maxLength: 8 }), (list) => {
      const proposals = list.map(({ certainty, ids }, line) => laid(line, certainty, ...ids.map(receipt)));
      const settled = settleConflicts(proposals);
      const used = settled.flatMap((proposal) => proposal.laid?.parts.map(({ id }) => id) ?? []);
      expect(new Set(used).size).toBe(used.length);
      const turned = settleConflicts([...proposals].reverse()).reverse();
      expect(turned).toEqual(settled);
    }),
  );
});
