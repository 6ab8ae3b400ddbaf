// Builds the worker (bundled by esbuild) and the pages (Next.js).
import { bundle } from './lib/bundle.mjs';
import { run } from './lib/run.mjs';

await bundle({ worker: 'src/workers/worker.ts' }, 'dist');
await run('npx', ['next', 'build'], { env: { NEXT_TELEMETRY_DISABLED: '1' } });
