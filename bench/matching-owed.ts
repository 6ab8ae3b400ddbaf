import { judgeOwed, type OwedCount } from '../tests/trial/owed-judge';
import { owedWorld, PLAIN_OWED, type OwedPayment, type OwedShape } from '../tests/trial/owed-world';

const WORLDS: readonly [string, Partial<OwedShape>][] = [
  ['as it comes', {}],
  ['equal prices only', { equal: 100 }],
  ['a fifth of the numbers with a typo', { typos: 20 }],
  ['half of the numbers bare', { bare: 50 }],
  ['no numbers', { numbered: 0 }],
  ['few payers, much owed by each', { payers: 8 }],
];

/** Worlds of each kind. */
const SEEDS = Array.from({ length: 10 }, (_, n) => 21 + n);

const percent = (part: number, of: number) => (of === 0 ? '' : `${((100 * part) / of).toFixed(1)} %`);

/** How well payments of invoices are told, by what the bank's text says. */
export function reportOwed(): void {
  console.log(
    '| invoices | kind | payments | proven | probable | open | of these the truth is shown | wrong | of these equals |',
  );
  console.log('| --- | --- | --- | --- | --- | --- | --- | --- | --- |');
  const all = { probable: 0, wrong: 0, swaps: 0, proven: 0, wrongProven: 0 };
  for (const [name, shape] of WORLDS) {
    const counts = new Map<OwedPayment['kind'], OwedCount>();
    for (const seed of SEEDS) judgeOwed(owedWorld({ ...PLAIN_OWED, ...shape, seed }), counts);
    for (const c of counts.values()) for (const key of Object.keys(all) as (keyof typeof all)[]) all[key] += c[key];
    for (const [kind, c] of [...counts].sort(([a], [b]) => a.localeCompare(b))) {
      const wrong = c.wrong === 0 ? '0' : `${c.wrong}${c.wrongProven > 0 ? `, ${c.wrongProven} proven` : ''}`;
      console.log(
        `| ${name} | ${kind} | ${c.payments} | ${percent(c.proven, c.payments)} | ${percent(c.probable, c.payments)} | ${percent(c.open, c.payments)} | ${percent(c.shown, c.open)} | ${wrong} | ${c.swaps} |`,
      );
    }
  }
  const laid = all.probable + all.wrong - all.wrongProven;
  const right = (wrong: number) => `${((100 * (laid - wrong)) / laid).toFixed(2)} %`;
  console.log(
    `\nOf ${all.proven + all.wrongProven} proven ${all.wrongProven} are wrong; of ${laid} probable ${right(all.wrong)} are right, ${right(all.wrong - all.swaps)} up to equals.\n`,
  );
}
