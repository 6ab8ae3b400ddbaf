/** What field :86: says of a line. */
export interface Information {
  readonly text: string;
  readonly counterparty: string;
  readonly reference: string;
}

/** Pieces of this length were cut by the form, within a word or not: nothing stands between them and the next. */
const SUBFIELD_FULL = 27;
const LINE_FULL = 65;

/** White space that is not one space: single spaces, which are most, need no writing again. */
const MORE_THAN_A_SPACE = /\s{2,}|[^\S ]/g;

/** Puts pieces together that the form cut; a piece that is shorter than it could be ends a word. */
function joined(pieces: readonly string[], full: number): string {
  return pieces
    .map((piece, index) => (index < pieces.length - 1 && piece.length < full ? `${piece.trimEnd()} ` : piece))
    .join('')
    .replace(MORE_THAN_A_SPACE, ' ')
    .trim();
}

/** Names of parts within the text, as the payments of the single market have them: EREF+…, SVWZ+… */
const PARTS = /\b(EREF|KREF|MREF|CRED|DEBT|SVWZ|ABWA|ABWE|IBAN|BIC)\+/g;

function partOf(text: string, name: string): string {
  if (!text.includes(`${name}+`)) return '';
  const marks = [...text.matchAll(PARTS)];
  const at = marks.findIndex((mark) => mark[1] === name);
  if (at < 0) return '';
  const from = marks[at]!.index + marks[at]![0].length;
  return text.slice(from, marks[at + 1]?.index ?? text.length).trim();
}

/** Subfields after question marks: ?20 to ?29 and ?60 to ?63 are the text, ?32 and ?33 the other party. */
function subfields(value: string): Information {
  const kinds: string[] = [];
  const texts: string[] = [];
  const more: string[] = [];
  const parties: string[] = [];
  for (const [, code, text] of value.replace(/\n/g, '').matchAll(/\?(\d{2})([^?]*)/g)) {
    const no = Number(code);
    if (no === 0) kinds.push(text!);
    else if (no >= 20 && no <= 29) texts.push(text!);
    else if (no >= 60 && no <= 63) more.push(text!);
    else if (no === 32 || no === 33) parties.push(text!);
  }
  const said = joined([...texts, ...more], SUBFIELD_FULL);
  const kind = joined(kinds, SUBFIELD_FULL);
  const reference = partOf(said, 'EREF') || partOf(said, 'MREF');
  return {
    text: [kind, said].filter(Boolean).join(' '),
    counterparty: joined(parties, SUBFIELD_FULL),
    reference: reference === 'NOTPROVIDED' ? '' : reference,
  };
}

/** Parts between slashes: /EREF/… /NAME/… /REMI/… */
function slashed(value: string): Information {
  const text = joined(value.split('\n'), LINE_FULL);
  const part = (name: string) => new RegExp(`/${name}/+([^/]+)`).exec(text)?.[1]?.trim() ?? '';
  const reference = part('EREF') || part('MARF');
  return {
    text: text.replace(/\/+/g, ' ').replace(/\s+/g, ' ').trim(),
    counterparty: part('NAME'),
    reference: reference === 'NOTPROVIDED' ? '' : reference,
  };
}

/** Reads :86: in any of the ways banks fill it: with subfields, with parts between slashes, or as plain lines. */
export function informationOf(value: string): Information {
  if (/^\d{0,3}\?\d{2}/.test(value)) return subfields(value);
  if (/^\/[A-Z]{3,4}\//.test(value)) return slashed(value);
  const text = joined(value.split('\n'), LINE_FULL);
  const reference = partOf(text, 'EREF');
  return { text, counterparty: '', reference: reference === 'NOTPROVIDED' ? '' : reference };
}
