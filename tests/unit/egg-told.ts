import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { egg } from '@/egg/egg';
import { KITTIWAKE } from '../../demo/kittiwake/books';

/** The command line in a folder of data of its own, with Kittiwake's empty books in it. */
export function commandLine() {
  let data = '';
  const put = (name: string, text: string): string => {
    const path = join(data, name);
    writeFileSync(path, text);
    return path;
  };
  /** Runs a command line; what it says, and what is wrong. */
  const told = async (...words: string[]) => {
    const [said, wrong]: [string[], string[]] = [[], []];
    const code = await egg([...words, '--data', data], {
      say: (text) => said.push(text),
      wrong: (text) => wrong.push(text),
    });
    return { code, said: said.join('\n'), wrong: wrong.join('\n') };
  };
  beforeAll(async () => {
    data = mkdtempSync(join(tmpdir(), 'nest-egg-egg-'));
    expect((await told('make', '--books', 'kw', '--file', put('books.json', JSON.stringify(KITTIWAKE)))).code).toBe(0);
  });
  afterAll(() => rmSync(data, { recursive: true }));
  return { put, told, folder: () => data };
}
