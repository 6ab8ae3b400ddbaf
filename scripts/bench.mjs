// Measures what the design sets aims for, each figure beside its floor in the same run. Gates nothing.
// Names of measures run these alone: npm run bench -- readers banked
import { bundle } from './lib/bundle.mjs';
import { installed } from './lib/prepare.mjs';
import { run } from './lib/run.mjs';

const MEASURES = ['run', 'million', 'banked', 'owed', 'readers', 'matching'];
const OUT = 'dist/bench';

await installed();
// Bundled as the worker ships: what runs TypeScript as it stands wraps every function it makes, which is more than is measured.
const sources = [...MEASURES, 'import-child'].map((name) => [name, `bench/${name}.ts`]);
await bundle(Object.fromEntries(sources), OUT);
const asked = process.argv.slice(2);
for (const name of asked.length > 0 ? asked : MEASURES)
  await run(process.execPath, ['--expose-gc', `${OUT}/${name}.js`]);
