import { LIMITS, refuseFile, type ByteSource } from './finding';
import { decodeLenient, type TextChunk } from './text';

export interface TextLines {
  readonly lines: readonly string[];
  /** Number of the first of them, from 1. */
  readonly first: number;
  /** Bytes of the file consumed so far. */
  readonly bytes: number;
}

/**
 * A text file line by line, whatever its line ends are; the last line need not be ended. A line above the limit refuses the
 * file. Text that is no UTF-8 is read as Windows-1252 unless another decoder is given.
 */
export async function* textLines(
  source: ByteSource,
  decode: (source: ByteSource) => AsyncIterable<TextChunk> = decodeLenient,
): AsyncGenerator<TextLines> {
  let held = '';
  let first = 1;
  let bytes = 0;
  for await (const chunk of decode(source)) {
    bytes = chunk.bytes;
    // A carriage return at the very end may be half of a line end.
    let text = held + chunk.text;
    const half = text.endsWith('\r');
    if (half) text = text.slice(0, -1);
    const lines = text.split(/\r\n|\n|\r/);
    held = lines.pop()! + (half ? '\r' : '');
    const long = [...lines, held].findIndex((line) => line.length > LIMITS.lineLength);
    if (long >= 0) refuseFile('line-too-long', first + long);
    if (lines.length > 0) yield { lines, first, bytes };
    first += lines.length;
  }
  const rest = held.replace(/\r$/, '');
  if (rest !== '' || held !== rest) yield { lines: [rest], first, bytes };
  if (bytes === 0) refuseFile('empty-file', null);
}
