// Builds the worker (bundled by esbuild) and the pages (Next.js).
import { build } from 'esbuild';
import { run } from './lib/run.mjs';

await build({
  entryPoints: { worker: 'src/workers/worker.ts' },
  outdir: 'dist',
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'cjs',
  sourcemap: true,
  external: ['better-sqlite3', 'date-holidays', 'exceljs', 'nodemailer'],
  logLevel: 'warning',
});
await run('npx', ['next', 'build'], { env: { NEXT_TELEMETRY_DISABLED: '1' } });
