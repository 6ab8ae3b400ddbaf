import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { driftlineFiles } from './driftline/files';
import { driftlineScenario } from './driftline/scenario';
import { kittiwakeFiles } from './kittiwake/files';
import { kittiwakeScenario } from './kittiwake/scenario';
import { counterDays, tillFiles } from './kittiwake/till';
import { lanternHeadFiles } from './lantern-head/files';
import { lanternHeadScenario } from './lantern-head/scenario';

/** The seed the shipped files were made with. */
export const SEED = 20_261_116;

/** Writes the demo's files into a folder. */
export function generate(folder: string, files: Iterable<readonly [string, string]>): void {
  mkdirSync(folder, { recursive: true });
  for (const [name, text] of files) writeFileSync(join(folder, name), text);
}

if (require.main === module) {
  generate(join(__dirname, 'kittiwake', 'files'), [
    ...kittiwakeFiles(kittiwakeScenario(SEED)),
    ...tillFiles(counterDays(SEED)),
  ]);
  generate(join(__dirname, 'driftline', 'files'), driftlineFiles(driftlineScenario(SEED)));
  generate(join(__dirname, 'lantern-head', 'files'), lanternHeadFiles(lanternHeadScenario(SEED)));
}
