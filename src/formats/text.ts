import { refuseFile, type ByteSource } from './finding';

export interface TextChunk {
  readonly text: string;
  readonly bytes: number;
}

function encodingOf(head: Uint8Array): string {
  if (head[0] === 0xff && head[1] === 0xfe) return 'utf-16le';
  if (head[0] === 0xfe && head[1] === 0xff) return 'utf-16be';
  return 'utf-8';
}

/** An encoding's name is told within so many bytes: a byte order mark, or what an XML declaration says. */
const HEAD = 256;

/** Chunks of a source, the first of them long enough to hold what tells the encoding. */
async function* headFirst(source: ByteSource): AsyncGenerator<Uint8Array> {
  let head: Uint8Array | null = new Uint8Array();
  for await (const chunk of source) {
    if (head === null) {
      yield chunk;
      continue;
    }
    head = Buffer.concat([head, chunk]);
    if (head.length < HEAD) continue;
    yield head;
    head = null;
  }
  if (head !== null && head.length > 0) yield head;
}

function decoderOf(label: string): TextDecoder {
  try {
    return new TextDecoder(label, { fatal: true });
  } catch {
    return refuseFile('encoding-unknown', 1, { found: label.slice(0, 60) });
  }
}

/**
 * Turns bytes into text as they come, in the encoding that its beginning tells. Bytes that are no text in it, and NUL
 * characters, refuse the file.
 */
async function* decodeBy(source: ByteSource, encodingFor: (head: Uint8Array) => string): AsyncGenerator<TextChunk> {
  let decoder: TextDecoder | null = null;
  let bytes = 0;
  const decode = (chunk: Uint8Array | null): string => {
    try {
      return chunk === null ? decoder!.decode() : decoder!.decode(chunk, { stream: true });
    } catch {
      return refuseFile('encoding', null, { expected: decoder!.encoding.toUpperCase() });
    }
  };
  for await (const chunk of headFirst(source)) {
    decoder ??= decoderOf(encodingFor(chunk));
    bytes += chunk.length;
    yield { text: checked(decode(chunk)), bytes };
  }
  if (decoder === null) return;
  const rest = decode(null);
  if (rest) yield { text: rest, bytes };
}

/** Text that is UTF-8 unless a byte order mark, which is taken off, says UTF-16; refusals as {@link decodeBy}. */
export const decodeText = (source: ByteSource) => decodeBy(source, encodingOf);

/** What the declaration of an XML document says its bytes are (XML 1.0, 4.3.3); a byte order mark has the last word. */
const DECLARED = /^<\?xml\s[^>]*?\bencoding\s*=\s*["']([A-Za-z][\w.-]*)["']/;

/** Text of an XML document, in the encoding that it declares. */
export function decodeXml(source: ByteSource): AsyncGenerator<TextChunk> {
  return decodeBy(source, (head) => {
    const mark = marked(head);
    if (mark !== null) return mark;
    const label = DECLARED.exec(String.fromCharCode(...head.subarray(0, HEAD)))?.[1] ?? 'utf-8';
    // Without its mark it cannot be UTF-16: the declaration itself was read byte by byte.
    return /^utf-?16/i.test(label) ? 'utf-8' : label;
  });
}

const LINE_FEED = 10;

/** Encodings that can be said; auto tells them apart by the bytes. */
export const ENCODINGS = ['auto', 'utf-8', 'utf-16le', 'utf-16be', 'windows-1252'] as const;
export type Encoding = (typeof ENCODINGS)[number];

/** What a byte order mark says the encoding is; null where there is none. */
function marked(head: Uint8Array): Encoding | null {
  if (head[0] === 0xef && head[1] === 0xbb && head[2] === 0xbf) return 'utf-8';
  const wide = encodingOf(head);
  return wide === 'utf-8' ? null : (wide as Encoding);
}

/**
 * Text in the encoding that was said, or told by its bytes; one that was said and is not so refuses the file. A byte order
 * mark has the last word.
 */
export function decodeAs(source: ByteSource, encoding: Encoding): AsyncGenerator<TextChunk> {
  return encoding === 'auto' ? decodeLenient(source) : decodeBy(source, (head) => marked(head) ?? encoding);
}

/**
 * As {@link decodeText}, but text that is no UTF-8 is read as Windows-1252, line by line: a file that was put together
 * from two sources keeps the letters of both.
 */
export async function* decodeLenient(source: ByteSource): AsyncGenerator<TextChunk> {
  let bytes = 0;
  let held = new Uint8Array();
  let wide: TextDecoder | null = null;
  let first = true;
  const join = (a: Uint8Array, b: Uint8Array) => {
    if (a.length === 0) return b;
    const joined = new Uint8Array(a.length + b.length);
    joined.set(a);
    joined.set(b, a.length);
    return joined;
  };
  for await (const chunk of source) {
    if (chunk.length === 0) continue;
    bytes += chunk.length;
    if (first && encodingOf(chunk) !== 'utf-8') wide = new TextDecoder(encodingOf(chunk), { fatal: true });
    first = false;
    if (wide !== null) {
      yield { text: decodeWide(wide, chunk), bytes };
      continue;
    }
    const data = join(held, chunk);
    const end = data.lastIndexOf(LINE_FEED) + 1;
    held = data.slice(end);
    if (end > 0) yield { text: checked(linesOf(data.subarray(0, end))), bytes };
    if (held.length > 4 * 1024 * 1024) refuseFile('line-too-long', null);
  }
  if (wide !== null) yield { text: decodeWide(wide, null), bytes };
  else if (held.length > 0) yield { text: checked(linesOf(held)), bytes };
}

function decodeWide(decoder: TextDecoder, chunk: Uint8Array | null): string {
  try {
    return chunk === null ? decoder.decode() : decoder.decode(chunk, { stream: true });
  } catch {
    return refuseFile('encoding', null, { expected: 'UTF-16' });
  }
}

function checked(text: string): string {
  if (text.includes('\0')) refuseFile('not-text', null, { found: 'NUL' });
  return text;
}

function strict(data: Uint8Array): string | null {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(data);
  } catch {
    return null;
  }
}

function linesOf(data: Uint8Array): string {
  const whole = strict(data);
  if (whole !== null) return whole;
  const lines: string[] = [];
  for (let at = 0; at < data.length;) {
    const feed = data.indexOf(LINE_FEED, at);
    const end = feed < 0 ? data.length : feed + 1;
    const line = data.subarray(at, end);
    lines.push(strict(line) ?? new TextDecoder('windows-1252').decode(line));
    at = end;
  }
  return lines.join('');
}
