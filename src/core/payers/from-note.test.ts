import { nameWords, payerReasonWords, payersInNote } from '.';

const KNOWN = [
  { id: 1, name: 'Orla Maher' },
  { id: 2, name: 'Orla Mac Giolla' },
  { id: 3, name: 'Finn Tully' },
  { id: 4, name: 'Skarra Yacht Club' },
  { id: 5, name: 'M. Garvan' },
];
const found = (note: string) => payersInNote(note, KNOWN).map((p) => [p.payer, p.reason.kind]);

test.each([
  [
    'Rig check, Orla M.',
    [
      [2, 'name-and-initial'],
      [1, 'name-and-initial'],
    ],
  ],
  ['lesson for Finn Tully', [[3, 'whole-name']]],
  ['O. Maher, berth 14', [[1, 'name-and-initial']]],
  ['Regatta, Skarra', [[4, 'one-word']]],
  ['shackles, M. Garvan', [[5, 'whole-name']]],
  ['rope', []],
  ['', []],
  ['orla maher', [[1, 'whole-name']]],
])('%j gives %j', (note, expected) => {
  expect(found(note)).toEqual(expected);
});

test('every proposal says what it rests on', () => {
  expect(payersInNote('Rig check, Orla M.', KNOWN).map((p) => payerReasonWords(p.reason))[0]).toBe(
    '“Orla M.” in the note is this name shortened',
  );
});

test('the words looked for begin with a capital letter', () => {
  expect(nameWords('Rig check for Orla M., O’Dowd')).toEqual(['Rig', 'Orla', 'M.', 'O’Dowd']);
});
