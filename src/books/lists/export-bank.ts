import { writeAmount, type Currency } from '@/core/money';
import { depositIncome } from '../matching/deposit-income';
import { chargedOtherwise } from '../proof/charges';
import { feeChecks, otherwiseInAll } from '../proof/fee-check';
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

/** All that a channel charged otherwise than by its schedule: receipts, payouts, deposits. */
export async function chargedOtherwiseRows(db: Reading, channel: number): Promise<Cells[]> {
  const check = (await feeChecks(db)).find((one) => one.channel === channel);
  const rows = check ? await chargedOtherwise(db, channel, otherwiseInAll(check)) : [];
  return [
    ['Date', 'Kind', 'Name', 'Payer', 'Currency', 'Gross', 'By schedule', 'Charged'],
    ...rows.map(({ date, kind, name, payer, gross, bySchedule, charged }) => [
      date,
      kind,
      name,
      payer,
      check!.currency,
      ...[gross, bySchedule, charged].map((amount) => writeAmount(amount, check!.currency)),
    ]),
  ];
}
