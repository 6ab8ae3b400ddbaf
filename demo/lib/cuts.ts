import { camt053 } from '@/standins/bank/camt053-writer';

/** Where files begin and end: history in one, the current month as far as it has come in another. */
export const CUTS = [
  { name: '2026-09-to-10', from: '2026-09-01', to: '2026-10-31' },
  { name: '2026-11', from: '2026-11-01', to: '2026-11-15' },
] as const;
export type Cut = (typeof CUTS)[number];

export const within = (day: string, { from, to }: Cut) => day >= from && day <= to;

/** A line of a bank in a scenario; its amount in cents. */
export interface BankLine {
  readonly date: string;
  readonly amount: number;
  readonly text: string;
  readonly party: string;
  readonly reference: string;
}

/** The bank's statements of an account, one for each cut, as file names with what stands in them. */
export function statementFiles(
  lines: readonly BankLine[],
  account: { readonly prefix: string; readonly iban: string; readonly opening: number },
): [name: string, text: string][] {
  let { opening } = account;
  return CUTS.map((cut) => {
    const own = lines.filter((line) => within(line.date, cut));
    const { name, from, to } = cut;
    const text = [
      ...camt053({
        id: `${account.prefix}-${name}`,
        iban: account.iban,
        currency: 'EUR',
        opening,
        from,
        to,
        lines: own,
      }),
    ].join('');
    opening += own.reduce((sum, line) => sum + line.amount, 0);
    return [`statement-${name}.xml`, text];
  });
}
