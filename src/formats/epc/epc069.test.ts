import { transferCode } from './epc069';

const transfer = {
  name: 'Kittiwake Sails',
  iban: 'IE29 SKER 9311 5212 3456 78',
  bic: 'SKERIE2D',
  cents: 36162,
  remittance: 'K2026-0001',
};

test('says a transfer line by line as EPC069-12 has it', () => {
  expect(transferCode(transfer)!.split('\n')).toEqual([
    'BCD',
    '002',
    '1',
    'SCT',
    'SKERIE2D',
    'Kittiwake Sails',
    'IE29SKER93115212345678',
    'EUR361.62',
    '',
    '',
    'K2026-0001',
  ]);
});

test.each([
  ['nothing', { cents: 0 }],
  ['more than may be', { cents: 100_000_000_000 }],
  ['half a cent', { cents: 1.5 }],
])('%s is no transfer', (_name, more) => {
  expect(transferCode({ ...transfer, ...more })).toBeNull();
});

test('a line break cannot begin another field, and what is too long is cut or refused', () => {
  const broken = transferCode({ ...transfer, name: 'A\nB', remittance: 'x\ny' })!.split('\n');
  expect([broken.length, broken[5], broken[10]]).toEqual([11, 'A B', 'x y']);
  expect(transferCode({ ...transfer, name: 'é'.repeat(70), remittance: 'é'.repeat(140) })).toBeNull();
  expect(transferCode({ ...transfer, name: 'e'.repeat(90) })!.split('\n')[5]).toHaveLength(70);
});
