import { writeAmount, type Currency } from '@/core/money';
import { depositIncome } from '../matching/deposit-income';
import { feeChecks, otherwiseCharged } from '../proof/fee-check';
import type { Reading } from '../store';

type Cells = readonly (string | number | null)[];

/** Income from deposits alone, a row for each deposit, with whom it is known to be of. */
export async function depositIncomeRows(db: Reading, currency: Currency): Promise<Cells[]> {
  const groups = await depositIncome(db);
  return [
    ['From', 'Known by', 'Date', 'Text', 'Account', 'Amount'],
    ...groups.flatMap(({ name, by, deposits }) =>
      deposits.map(({ date, text, account, amount }) => [name, by, date, text, account, writeAmount(amount, currency)]),
    ),
  ];
}

/** All receipts that a channel charged otherwise than by its schedule. */
export async function chargedOtherwiseRows(db: Reading, channel: number): Promise<Cells[]> {
  const check = (await feeChecks(db)).find((one) => one.channel === channel);
  const rows = check ? await otherwiseCharged(db, channel, check.otherwise) : [];
  return [
    ['Date', 'Receipt', 'Payer', 'Currency', 'Gross', 'By schedule', 'Charged'],
    ...rows.map(({ date, name, payer, gross, bySchedule, fee }) => [
      date,
      name,
      payer,
      check!.currency,
      ...[gross, bySchedule, fee].map((amount) => writeAmount(amount, check!.currency)),
    ]),
  ];
}
