/** One measure: what was done, how long it took beside its floor, and what is aimed at. Milliseconds. */
export interface Row {
  readonly what: string;
  readonly took: number;
  readonly floor: number | null;
  readonly aim: string;
}

/** The machine is shared: of a few tries the fastest says most about the code. */
export const TRIES = Number(process.env.TRIES ?? 3);

export async function timed<T>(work: () => Promise<T>): Promise<{ value: T; took: number }> {
  const start = performance.now();
  const value = await work();
  return { value, took: performance.now() - start };
}

export function printRows(rows: readonly Row[]): void {
  const cells = rows.map(({ what, took, floor, aim }) => [
    what,
    `${took.toFixed(took < 100 ? 1 : 0)} ms`,
    floor === null ? '' : `${floor.toFixed(floor < 100 ? 1 : 0)} ms`,
    floor === null ? '' : `${(took / floor).toFixed(2)}×`,
    aim,
  ]);
  const table = [['what', 'took', 'floor', 'ratio', 'aim'], ...cells];
  const widths = table[0]!.map((_, i) => Math.max(...table.map((row) => row[i]!.length)));
  for (const row of table)
    console.log(row.map((cell, i) => (i === 0 ? cell.padEnd(widths[i]!) : cell.padStart(widths[i]!))).join('  '));
}
