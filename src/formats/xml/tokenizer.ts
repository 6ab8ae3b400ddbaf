/** What makes a text no well-formed XML, or one that is not read here. */
export type XmlFault = 'not-xml' | 'doctype' | 'truncated' | 'too-long';

/** Ends the reading of a document. `detail` says what was met, in few characters. */
export class XmlError extends Error {
  constructor(
    readonly fault: XmlFault,
    readonly line: number,
    readonly detail: string,
  ) {
    super(`${fault} at line ${line}: ${detail}`);
  }
}

/** Where the parts of a document go, in their order. */
export interface XmlHandler {
  /** `attributes` is the text between the name and the end of the tag; {@link attributeOf} reads one of them. */
  open(name: string, attributes: string): void;
  close(name: string): void;
  /** Characters between tags with references resolved; text around a comment or CDATA comes in pieces. */
  text(text: string): void;
}

const NAME_START =
  ':A-Z_a-z\\u00C0-\\u00D6\\u00D8-\\u00F6\\u00F8-\\u02FF\\u0370-\\u037D\\u037F-\\u1FFF\\u200C\\u200D\\u2070-\\u218F' +
  '\\u2C00-\\u2FEF\\u3001-\\uD7FF\\uF900-\\uFDCF\\uFDF0-\\uFFFD\\u{10000}-\\u{EFFFF}';
const NAME = `[${NAME_START}][${NAME_START}\\-.0-9\\u00B7\\u0300-\\u036F\\u203F-\\u2040]*`;
/* eslint-disable no-misleading-character-class -- the ranges are the standard's own: combining marks and joiners among them */
/** XML 1.0 (fifth edition), 2.3: Name. */
const WHOLE_NAME = new RegExp(`^${NAME}$`, 'u');
const ATTRIBUTE = new RegExp(`[ \\t\\r\\n]+(${NAME})[ \\t\\r\\n]*=[ \\t\\r\\n]*("[^<"]*"|'[^<']*')`, 'uy');
/* eslint-enable no-misleading-character-class */
const DECLARATION =
  /^xml\s+version\s*=\s*(["'])1\.[0-9]+\1(\s+encoding\s*=\s*(["'])[A-Za-z][\w.-]*\3)?(\s+standalone\s*=\s*(["'])(yes|no)\5)?\s*$/;
/** XML 1.0, 2.2: what may not stand in a document at all. Half surrogate pairs cannot come out of a decoder. */
// eslint-disable-next-line no-control-regex
const FORBIDDEN = /[\0-\x08\x0B\x0C\x0E-\x1F\uFFFE\uFFFF]/;
const LESS = 60;
const GREATER = 62;
const AMPERSAND = 38;
const RETURN = 13;
const BRACKET = 93;
const SLASH = 47;
const BANG = 33;
const QUESTION = 63;
const QUOTE = 34;
const APOSTROPHE = 39;
const BLANK = /^[ \t\r\n]*$/;
const NAMED: Readonly<Record<string, string>> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" };

/** Distinct names that are remembered as well-formed; more than any message has. */
const NAMES_KEPT = 2_000;
/** Elements within each other; a message has about fifteen. */
const DEEPEST = 1_000;

function charOf(code: number): string | null {
  const allowed =
    code === 9 || code === 10 || code === 13 || (code >= 32 && code < 0xd800) || (code > 0xdfff && code <= 0x10ffff);
  return allowed && code !== 0xfffe && code !== 0xffff ? String.fromCodePoint(code) : null;
}

/**
 * Follows one XML document piece by piece and hands its elements and texts to the handler. It reads what bank messages
 * are made of: elements, attributes, text, CDATA, comments, processing instructions, the five named references and
 * character references. A document type declaration is refused: with it would come entities and outside files.
 *
 * One scan by `indexOf`; a tag or text that is cut off by the end of a piece waits for the next one, up to `longest`
 * characters.
 * @throws XmlError where the text is not well-formed.
 */
export class XmlTokenizer {
  private held = '';
  private at = 0;
  /** Lines before {@link counted}, which lies in `held`. */
  private lines = 1;
  private counted = 0;
  private readonly stack: string[] = [];
  private readonly names = new Set<string>();
  private started = false;
  private rootClosed = false;

  constructor(
    private readonly handler: XmlHandler,
    private readonly longest: number,
  ) {}

  /** The line that is being read, from 1. */
  get line(): number {
    for (;;) {
      const next = this.held.indexOf('\n', this.counted);
      if (next < 0 || next >= this.at) break;
      this.lines++;
      this.counted = next + 1;
    }
    return this.lines;
  }

  write(piece: string): void {
    if (FORBIDDEN.test(piece)) this.fail('not-xml', 'a control character');
    void this.line;
    // Joined and not added: an added string is a rope, and each look at a character of it would go through the rope.
    this.held = this.at === this.held.length ? piece : [this.held.slice(this.at), piece].join('');
    this.counted = Math.max(0, this.counted - this.at);
    this.at = 0;
    this.scan(false);
    if (this.held.length - this.at > this.longest) this.fail('too-long', this.stack.at(-1) ?? '');
  }

  end(): void {
    this.scan(true);
    const rest = this.held.slice(this.at);
    if (this.stack.length > 0 || rest.startsWith('<')) this.fail('truncated', this.stack.at(-1) ?? rest);
    if (!BLANK.test(rest) || !this.rootClosed) this.fail('not-xml', rest.trim() || 'no element');
  }

  private fail(fault: XmlFault, detail: string): never {
    throw new XmlError(fault, this.line, detail.slice(0, 60));
  }

  private scan(last: boolean): void {
    const { held } = this;
    for (;;) {
      const from = this.at;
      // One pass over the characters of a text, which tells at once whether it needs a second look.
      let open = from;
      let plain = true;
      for (; open < held.length; open++) {
        const code = held.charCodeAt(open);
        if (code === LESS) break;
        if (code === AMPERSAND || code === RETURN || code === BRACKET) plain = false;
      }
      if (open === held.length) return;
      // What a tag could be is told by up to nine characters: <![CDATA[.
      if (!last && held.length - open < 9 && held.indexOf('>', open) < 0) return;
      this.at = open;
      if (open > from) this.takeText(held.slice(from, open), plain);
      const next = held.charCodeAt(open + 1);
      const end = next === SLASH ? this.closeTag(open) : next === BANG ? this.markup(open) : this.tag(open, next);
      if (end < 0) return;
      this.started = true;
      this.at = end;
    }
  }

  private takeText(raw: string, plain: boolean): void {
    if (this.stack.length === 0) {
      if (!BLANK.test(raw)) this.fail('not-xml', `text outside the document: ${raw.trim().slice(0, 20)}`);
      this.started = true;
      return;
    }
    if (!plain && raw.includes(']]>')) this.fail('not-xml', ']]>');
    this.handler.text(plain ? raw : this.resolve(raw));
  }

  /** Line ends as one, references as the characters they stand for (XML 1.0, 2.11 and 4.6). */
  private resolve(raw: string): string {
    const text = raw.includes('\r') ? raw.replace(/\r\n?/g, '\n') : raw;
    if (!text.includes('&')) return text;
    return text.replace(/&([^;&]{0,12};)?/g, (whole, body: string | undefined) => {
      const name = body?.slice(0, -1) ?? '';
      const number = /^#(?:([0-9]+)|x([0-9A-Fa-f]+))$/.exec(name);
      const char = number
        ? charOf(number[1] ? Number.parseInt(number[1], 10) : Number.parseInt(number[2]!, 16))
        : Object.hasOwn(NAMED, name)
          ? NAMED[name]!
          : null;
      return char ?? this.fail('not-xml', `reference ${whole}`);
    });
  }

  private checkName(name: string): void {
    if (this.names.has(name)) return;
    if (!WHOLE_NAME.test(name)) this.fail('not-xml', `<${name}`);
    if (this.names.size < NAMES_KEPT) this.names.add(name);
  }

  private closeTag(open: number): number {
    const { held } = this;
    const expected = this.stack.at(-1) ?? '';
    const rest = open + 2 + expected.length;
    const end = held.charCodeAt(rest) === GREATER ? rest : held.indexOf('>', open);
    if (end < 0) return -1;
    if (expected === '' || !held.startsWith(expected, open + 2) || !this.isBlank(rest, end)) {
      this.fail('not-xml', `${held.slice(open, end + 1)} where </${expected}> is due`);
    }
    this.stack.pop();
    this.rootClosed = this.stack.length === 0;
    this.handler.close(expected);
    return end + 1;
  }

  private isBlank(from: number, to: number): boolean {
    return from === to || (from < to && BLANK.test(this.held.slice(from, to)));
  }

  /** <!-- -->, <![CDATA[ ]]> and what is refused: <!DOCTYPE. */
  private markup(open: number): number {
    const { held } = this;
    if (held.startsWith('<!--', open)) {
      const dashes = held.indexOf('--', open + 4);
      if (dashes < 0 || dashes + 2 >= held.length) return -1;
      if (held[dashes + 2] !== '>') this.fail('not-xml', '-- in a comment');
      return dashes + 3;
    }
    if (held.startsWith('<![CDATA[', open)) {
      if (this.stack.length === 0) this.fail('not-xml', 'CDATA outside the document');
      const end = held.indexOf(']]>', open + 9);
      if (end < 0) return -1;
      this.handler.text(held.slice(open + 9, end).replace(/\r\n?/g, '\n'));
      return end + 3;
    }
    this.fail(held.startsWith('<!DOCTYPE', open) ? 'doctype' : 'not-xml', held.slice(open, open + 20));
  }

  private instruction(open: number): number {
    const end = this.held.indexOf('?>', open + 2);
    if (end < 0) return -1;
    const body = this.held.slice(open + 2, end);
    const name = /^[^ \t\r\n]*/.exec(body)![0];
    this.checkName(name);
    if (name.toLowerCase() === 'xml' && (this.started || !DECLARATION.test(body))) {
      this.fail('not-xml', `<?${body}`);
    }
    return end + 2;
  }

  /** Where the tag that opens here ends: the first > that stands in no quotes. -1 where it is not all here. */
  private endOfTag(from: number): number {
    const { held } = this;
    for (let i = from; i < held.length; i++) {
      const code = held.charCodeAt(i);
      if (code === GREATER) return i;
      if (code === QUOTE || code === APOSTROPHE) {
        i = held.indexOf(held[i]!, i + 1);
        if (i < 0) return -1;
      }
    }
    return -1;
  }

  private tag(open: number, next: number): number {
    if (next === QUESTION) return this.instruction(open);
    const { held } = this;
    const end = this.endOfTag(open);
    if (end < 0) return -1;
    const empty = held.charCodeAt(end - 1) === SLASH;
    const stop = empty ? end - 1 : end;
    let nameEnd = open + 1;
    for (; nameEnd < stop; nameEnd++) {
      const code = held.charCodeAt(nameEnd);
      if (code <= 32) break;
    }
    const name = held.slice(open + 1, nameEnd);
    this.checkName(name);
    if (this.rootClosed) this.fail('not-xml', `a second document: <${name}`);
    const attributes = held.slice(nameEnd, stop);
    if (nameEnd < stop) this.checkAttributes(attributes);
    this.handler.open(name, attributes);
    if (empty) {
      this.rootClosed = this.stack.length === 0;
      this.handler.close(name);
    } else {
      this.stack.push(name);
      if (this.stack.length > DEEPEST) this.fail('not-xml', `more than ${DEEPEST} elements within each other`);
    }
    return end + 1;
  }

  private checkAttributes(text: string): void {
    const seen = new Set<string>();
    ATTRIBUTE.lastIndex = 0;
    let end = 0;
    for (let match = ATTRIBUTE.exec(text); match; match = ATTRIBUTE.exec(text)) {
      if (seen.has(match[1]!)) this.fail('not-xml', `attribute ${match[1]} twice`);
      seen.add(match[1]!);
      this.resolve(match[2]!);
      end = ATTRIBUTE.lastIndex;
    }
    if (!BLANK.test(text.slice(end))) this.fail('not-xml', text.slice(end).trim());
  }
}

/** The value of an attribute in the text an `open` was given, or null; only plain values without references are read. */
export function attributeOf(attributes: string, name: string): string | null {
  ATTRIBUTE.lastIndex = 0;
  for (let match = ATTRIBUTE.exec(attributes); match; match = ATTRIBUTE.exec(attributes)) {
    if (match[1] === name) return match[2]!.slice(1, -1);
  }
  return null;
}
