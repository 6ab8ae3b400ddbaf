import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { BlobStore, readBytes, TooManyBytes } from '@/adapters/blob-store';
import { workingCalendar } from '@/adapters/holidays';
import { isWorkingDay, plainDate } from '@/core/calendar';
import { SharedProgress } from '@/workers/shared-progress';

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'nest-egg-blobs-'));
});
afterEach(() => rmSync(folder, { recursive: true }));

async function* chunks(...texts: string[]): AsyncGenerator<Uint8Array> {
  for (const text of texts) yield new TextEncoder().encode(text);
}

describe('files brought in', () => {
  test('stand once, under the hash of their bytes, however often they come', async () => {
    const store = new BlobStore(folder);
    const first = await store.put(chunks('Id,', 'Net\n'), 100);
    const again = await store.put(chunks('Id,Net\n'), 100);
    expect(again).toEqual(first);
    expect(first.bytes).toBe(7);
    expect(readdirSync(folder)).toEqual([first.sha256]);
    expect(readFileSync(first.path, 'utf8')).toBe('Id,Net\n');
    let text = '';
    for await (const chunk of readBytes(first.path)) text += new TextDecoder().decode(chunk);
    expect(text).toBe('Id,Net\n');
  });

  test('past the limit nothing is left behind', async () => {
    const store = new BlobStore(folder);
    await expect(store.put(chunks('12345', '67890', 'x'), 10)).rejects.toBeInstanceOf(TooManyBytes);
    expect(readdirSync(folder)).toEqual([]);
    expect((await store.put(chunks('12345', '67890'), 10)).bytes).toBe(10);
  });

  test('a broken upload leaves nothing behind', async () => {
    const broken = async function* () {
      yield new Uint8Array([1]);
      throw new Error('connection lost');
    };
    await expect(new BlobStore(folder).put(broken(), 100)).rejects.toThrow('connection lost');
    expect(readdirSync(folder)).toEqual([]);
  });

  test('only a hash leads to a file', async () => {
    const store = new BlobStore(folder);
    const { sha256 } = await store.put(chunks('a'), 10);
    expect(await store.find(sha256)).toMatchObject({ sha256, bytes: 1 });
    for (const name of ['../../etc/passwd', sha256.slice(1), sha256.toUpperCase(), '0'.repeat(64)]) {
      expect(await store.find(name)).toBeNull();
    }
  });
});

test.each([
  ['2026-10-26', false], // last Monday in October
  ['2026-03-17', false], // Saint Patrick
  ['2026-04-03', false], // Good Friday: a bank holiday
  ['2026-11-16', true],
  ['2026-11-15', false], // Sunday
])('%s is a working day for Irish banks: %s', (day, works) => {
  expect(isWorkingDay(plainDate(day), workingCalendar('IE'))).toBe(works);
});

test('progress and cancel cross in shared memory', () => {
  const here = new SharedProgress();
  const there = new SharedProgress(here.buffer);
  expect(here.view()).toEqual({ doing: 'Waiting', done: 0, total: 0 });
  there.report('Posting receipts', 2000, 100_000);
  expect(here.view()).toEqual({ doing: 'Posting receipts', done: 2000, total: 100_000 });
  expect(there.cancelled).toBe(false);
  here.cancel();
  expect(there.cancelled).toBe(true);
});
