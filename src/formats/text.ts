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

/**
 * Turns bytes into text as they come. UTF-8 unless a byte order mark says UTF-16; the mark is taken off. Bytes that
 * are no text in that encoding, and NUL characters, refuse the file.
 */
export async function* decodeText(source: ByteSource): AsyncGenerator<TextChunk> {
  let decoder: TextDecoder | null = null;
  let encoding = 'utf-8';
  let bytes = 0;
  const decode = (chunk: Uint8Array | null): string => {
    try {
      return chunk === null ? decoder!.decode() : decoder!.decode(chunk, { stream: true });
    } catch {
      return refuseFile('encoding', null, { expected: encoding.toUpperCase() });
    }
  };
  for await (const chunk of source) {
    if (chunk.length === 0) continue;
    if (decoder === null) {
      encoding = encodingOf(chunk);
      decoder = new TextDecoder(encoding, { fatal: true });
    }
    bytes += chunk.length;
    const text = decode(chunk);
    if (text.includes('\0')) refuseFile('not-text', null, { found: 'NUL' });
    yield { text, bytes };
  }
  if (decoder === null) return;
  const rest = decode(null);
  if (rest) yield { text: rest, bytes };
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
export async function* decodeAs(source: ByteSource, encoding: Encoding): AsyncGenerator<TextChunk> {
  if (encoding === 'auto') return yield* decodeLenient(source);
  let is: Encoding = encoding;
  let decoder: TextDecoder | null = null;
  let bytes = 0;
  const decode = (chunk: Uint8Array | null) => {
    try {
      return chunk === null ? decoder!.decode() : decoder!.decode(chunk, { stream: true });
    } catch {
      return refuseFile('encoding', null, { expected: is.toUpperCase() });
    }
  };
  for await (const chunk of source) {
    if (chunk.length === 0) continue;
    if (decoder === null) {
      is = marked(chunk) ?? encoding;
      decoder = new TextDecoder(is, { fatal: true });
    }
    bytes += chunk.length;
    yield { text: checked(decode(chunk)), bytes };
  }
  if (decoder === null) return;
  const rest = decode(null);
  if (rest) yield { text: rest, bytes };
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
