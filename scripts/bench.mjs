// Measures what the design sets aims for, each figure beside its floor in the same run. Gates nothing.
import { installed } from './lib/prepare.mjs';
import { run } from './lib/run.mjs';

await installed();
await run(process.execPath, ['node_modules/tsx/dist/cli.mjs', 'bench/run.ts']);
await run(process.execPath, ['node_modules/tsx/dist/cli.mjs', 'bench/million.ts']);
await run(process.execPath, ['node_modules/tsx/dist/cli.mjs', 'bench/banked.ts']);
await run(process.execPath, ['node_modules/tsx/dist/cli.mjs', 'bench/owed.ts']);
await run(process.execPath, ['node_modules/tsx/dist/cli.mjs', 'bench/readers.ts']);
await run(process.execPath, ['--expose-gc', 'node_modules/tsx/dist/cli.mjs', 'bench/matching.ts']);
