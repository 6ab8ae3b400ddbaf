import { printPdf, type TDocumentDefinitions } from '@/adapters/pdf';
import { formatDate } from '@/core/calendar';
import { formatAmount, type Minor } from '@/core/money';
import { letterhead, type Letterhead } from '../billing/document';
import { head, headOf, partiesOf, right, RULES } from '../billing/invoice-pdf';
import type { Reading } from '../store';
import type { PlainDate } from '@/core/calendar';
import { statementOfAccount, type StatementOfAccount } from './account';
import { payerDetails, type PayerDetails } from './details';

export function accountPage(from: Letterhead, to: PayerDetails, account: StatementOfAccount): TDocumentDefinitions {
  const money = (amount: Minor) => formatAmount(amount, from.currency);
  return {
    info: { title: `Statement of account, ${to.name}`, author: from.name },
    content: [
      headOf(from, 'Statement of account'),
      partiesOf(to, [
        ['From', formatDate(account.from)],
        ['To', formatDate(account.to)],
        ['Owed', money(account.closing)],
      ]),
      {
        table: {
          headerRows: 1,
          widths: ['auto', '*', 'auto', 'auto', 'auto'],
          body: [
            [head('Date'), head('What'), head('Document'), head('Amount', 'right'), head('Owed', 'right')],
            ['', `Before ${formatDate(account.from)}`, '', '', right(money(account.opening))],
            ...account.lines.map((line) => [
              formatDate(line.date),
              line.what,
              line.document,
              right(money(line.amount)),
              right(money(line.balance)),
            ]),
            ['', { text: `On ${formatDate(account.to)}`, bold: true }, '', '', right(money(account.closing), true)],
          ],
        },
        layout: RULES,
      },
    ],
    footer: (page, pages) => ({ text: `${page} of ${pages}`, alignment: 'center', fontSize: 8 }),
  };
}

/** A payer's statement of account as PDF; null where there is no such payer. */
export async function printedAccount(
  db: Reading,
  payer: number,
  from: PlainDate,
  to: PlainDate,
): Promise<{ name: string; bytes: Uint8Array } | null> {
  const details = await payerDetails(db, payer);
  if (!details) return null;
  const page = accountPage(await letterhead(db), details, await statementOfAccount(db, payer, from, to));
  return { name: `account-${from}-to-${to}.pdf`, bytes: await printPdf(page) };
}
