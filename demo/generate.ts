import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { kittiwakeFiles } from './kittiwake/files';
import { kittiwakeScenario } from './kittiwake/scenario';

/** The seed the shipped files were made with. */
export const SEED = 20_261_116;

/** Writes the demo's files into a folder. */
export function generate(folder: string): void {
  mkdirSync(folder, { recursive: true });
  for (const [name, text] of kittiwakeFiles(kittiwakeScenario(SEED))) writeFileSync(join(folder, name), text);
}

if (require.main === module) generate(join(__dirname, 'kittiwake', 'files'));
