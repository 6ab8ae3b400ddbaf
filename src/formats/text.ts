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
