import type { SheetPart } from './parts';

/** Whose a rest is that is kept: the one payer of the invoices on the sheet; null where they are of none or of several. */
export function keptFor(parts: readonly SheetPart[]): { readonly id: number; readonly name: string } | null {
  const payers = new Map(parts.flatMap(({ owedBy }) => (owedBy ? [[owedBy.id, owedBy] as const] : [])));
  return payers.size === 1 ? [...payers.values()][0]! : null;
}
