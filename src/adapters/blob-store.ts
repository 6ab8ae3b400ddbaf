import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { randomUUID } from 'node:crypto';

/** A file that was handed in, kept under the hash of its bytes. */
export interface StoredFile {
  readonly sha256: string;
  readonly bytes: number;
  readonly path: string;
}

/** More bytes came than may. */
export class TooManyBytes extends Error {
  constructor(readonly limit: number) {
    super(`more than ${limit} bytes`);
  }
}

/** Keeps files by what is in them, so that the same file stands there once however often it is brought in. */
export class BlobStore {
  constructor(private readonly folder: string) {}

  /** Takes a stream in without holding it; past `limit` bytes it stops and leaves nothing behind. */
  async put(source: AsyncIterable<Uint8Array>, limit: number): Promise<StoredFile> {
    await mkdir(this.folder, { recursive: true });
    const partial = join(this.folder, `${randomUUID()}.partial`);
    const hash = createHash('sha256');
    let bytes = 0;
    const measure = new Transform({
      transform(chunk: Buffer, _encoding, next) {
        bytes += chunk.length;
        if (bytes > limit) return next(new TooManyBytes(limit));
        hash.update(chunk);
        next(null, chunk);
      },
    });
    try {
      await pipeline(source, measure, createWriteStream(partial));
    } catch (error) {
      await rm(partial, { force: true });
      throw error;
    }
    const sha256 = hash.digest('hex');
    const path = this.path(sha256);
    await rename(partial, path);
    return { sha256, bytes, path };
  }

  /** A file put in before, or null. */
  async find(sha256: string): Promise<StoredFile | null> {
    if (!/^[0-9a-f]{64}$/.test(sha256)) return null;
    const path = this.path(sha256);
    const found = await stat(path).catch(() => null);
    return found && { sha256, bytes: found.size, path };
  }

  /** The bytes of a file put in before, a piece at a time; fails where it is gone. */
  async *bytes(sha256: string): AsyncGenerator<Uint8Array> {
    const stored = await this.find(sha256);
    if (!stored) throw new Error(`no file ${sha256}`);
    yield* readBytes(stored.path);
  }

  private path(sha256: string): string {
    return join(this.folder, sha256);
  }
}

/** The bytes of a stored file, a piece at a time. */
export function readBytes(path: string): AsyncIterable<Uint8Array> {
  return createReadStream(path, { highWaterMark: 256 * 1024 });
}
