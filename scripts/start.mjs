// Serves the built app on this machine's own address.
import { run } from './lib/run.mjs';

const port = process.env.PORT ?? '4310';
await run(process.execPath, ['node_modules/next/dist/bin/next', 'start', '-H', '127.0.0.1', '-p', port], {
  env: { NEXT_TELEMETRY_DISABLED: '1' },
});
