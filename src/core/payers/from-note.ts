/** A payer as known: what may be found in a note. */
export interface KnownPayer {
  readonly id: number;
  readonly name: string;
}

/** Why a payer is proposed for a receipt that names none. */
export type PayerReason =
  | { readonly kind: 'whole-name'; readonly said: string }
  | { readonly kind: 'name-and-initial'; readonly said: string }
  | { readonly kind: 'one-word'; readonly said: string };

export interface PayerProposal {
  readonly payer: number;
  readonly name: string;
  readonly reason: PayerReason;
}

const words = (text: string) => text.match(/[\p{L}\p{N}][\p{L}\p{N}'’-]*\.?/gu) ?? [];
const key = (word: string) => word.toLowerCase().replace(/[.'’]/g, '');

/** Words of a note that a name may be made of: those that begin with a capital letter, single letters among them. */
export function nameWords(note: string): string[] {
  return [...new Set(words(note).filter((word) => /^\p{Lu}/u.test(word)))];
}

const ORDER = ['whole-name', 'name-and-initial', 'one-word'] as const;

/**
 * Reads a note for payers ("Rig check, Orla M."): a whole name, a first name with the initial of another, or one word of a
 * name that is long enough to mean something. Surest first; several of one kind are all given, and nothing is chosen.
 */
export function payersInNote(note: string, known: readonly KnownPayer[]): PayerProposal[] {
  const said = words(note);
  const keys = said.map(key);
  const proposals: PayerProposal[] = [];
  for (const { id, name } of known) {
    const reason = reasonFor(said, keys, words(name).map(key));
    if (reason) proposals.push({ payer: id, name, reason });
  }
  return proposals.sort(
    (a, b) =>
      ORDER.indexOf(a.reason.kind) - ORDER.indexOf(b.reason.kind) || a.name.localeCompare(b.name) || a.payer - b.payer,
  );
}

function reasonFor(said: readonly string[], keys: readonly string[], name: readonly string[]): PayerReason | null {
  for (let at = 0; at + name.length <= keys.length; at++) {
    if (name.length > 1 && name.every((part, index) => keys[at + index] === part)) {
      return { kind: 'whole-name', said: said.slice(at, at + name.length).join(' ') };
    }
  }
  for (let at = 0; at + 1 < keys.length; at++) {
    const [one, two] = [keys[at]!, keys[at + 1]!];
    for (const part of name) {
      for (const other of name) {
        if (other === part || part.length < 2) continue;
        // "Orla M." and "O. Maher": a name in full beside the first letter of another.
        const full = one === part && two.length === 1 && other.startsWith(two);
        const turned = two === part && one.length === 1 && other.startsWith(one);
        if (full || turned) return { kind: 'name-and-initial', said: `${said[at]} ${said[at + 1]}` };
      }
    }
  }
  const at = keys.findIndex((word, index) => word.length > 3 && /^\p{Lu}/u.test(said[index]!) && name.includes(word));
  return at < 0 ? null : { kind: 'one-word', said: said[at]! };
}

/** The reason as a short phrase. */
export function payerReasonWords(reason: PayerReason): string {
  switch (reason.kind) {
    case 'whole-name':
      return `“${reason.said}” stands in the note`;
    case 'name-and-initial':
      return `“${reason.said}” in the note is this name shortened`;
    case 'one-word':
      return `“${reason.said}” in the note is part of this name`;
  }
}
