import { LIMITS, refuseFile } from '../finding';

export interface SgmlTaker {
  line: number;
  begin(name: string): void;
  leaf(name: string, text: string): void;
  end(name: string): void;
}

const ENTITIES: Readonly<Record<string, string>> = { amp: '&', lt: '<', gt: '>', nbsp: ' ', quot: '"', apos: "'" };
const NAME = /^\/?[A-Za-z][A-Za-z0-9._]*$/;

const unescaped = (text: string) =>
  text.replace(/&(#\d{1,7}|[a-z]{2,4});/g, (whole, name: string) => {
    if (!name.startsWith('#')) return ENTITIES[name] ?? whole;
    const code = Number(name.slice(1));
    return code > 0 && code <= 0x10ffff && (code < 0xd800 || code > 0xdfff) ? String.fromCodePoint(code) : whole;
  });

function countLines(text: string): number {
  let n = 0;
  for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) n++;
  return n;
}

/**
 * The SGML of OFX 1.x: a head of NAME:VALUE lines, then elements of which those with text need no end. A tag that is followed
 * by text is a leaf; one that is followed by a tag holds others. There are no entities to declare and no DOCTYPE.
 */
export class SgmlTokenizer {
  private held = '';
  private inHead = true;
  /** A tag of which it is not known yet whether it holds text or elements. */
  private pending: string | null = null;

  constructor(private readonly taker: SgmlTaker) {}

  write(text: string): void {
    this.held += text;
    if (this.inHead) {
      const at = this.held.indexOf('<');
      if (at < 0) return this.guard();
      this.taker.line += countLines(this.held.slice(0, at));
      this.held = this.held.slice(at);
      this.inHead = false;
    }
    let from = 0;
    for (;;) {
      // What stands before the next tag is the text of the one before; it is whole only once that tag is there.
      const tag = this.held.indexOf('<', from);
      if (tag < 0) break;
      const close = this.held.indexOf('>', tag);
      if (close < 0) break;
      this.text(this.held.slice(from, tag));
      this.tag(this.held.slice(tag + 1, close));
      from = close + 1;
    }
    this.held = this.held.slice(from);
    this.guard();
  }

  end(): void {
    if (this.held.includes('<')) refuseFile('truncated', this.taker.line, { found: this.held.trim().slice(0, 60) });
    this.text(this.held);
  }

  private guard(): void {
    if (this.held.length > LIMITS.lineLength) refuseFile('line-too-long', this.taker.line);
  }

  private text(raw: string): void {
    const text = raw.trim();
    if (text !== '' && this.pending !== null) {
      this.taker.leaf(this.pending, unescaped(text));
      this.pending = null;
    }
    this.taker.line += countLines(raw);
  }

  private tag(raw: string): void {
    const name = raw.trim().toUpperCase();
    // A comment or the line that says what the document is; a DOCTYPE would be of another format.
    if (name.startsWith('!DOCTYPE')) refuseFile('doctype', this.taker.line);
    if (name.startsWith('?') || name.startsWith('!')) return;
    if (!NAME.test(name)) refuseFile('not-xml', this.taker.line, { found: `<${raw.slice(0, 60)}>` });
    if (name.startsWith('/')) {
      const closed = name.slice(1);
      // An element with nothing in it; one before it that was never closed was an empty leaf.
      if (this.pending === closed) this.taker.begin(closed);
      this.pending = null;
      return this.taker.end(closed);
    }
    if (this.pending !== null) this.taker.begin(this.pending);
    this.pending = name;
  }
}
