import { build } from 'esbuild';

/** Bundles TypeScript for Node, as the worker ships: packages that bring their own files stay outside. */
export function bundle(entryPoints, outdir) {
  return build({
    entryPoints,
    outdir,
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'cjs',
    sourcemap: true,
    external: ['better-sqlite3', 'date-holidays', 'exceljs', 'nodemailer'],
    logLevel: 'warning',
  });
}
