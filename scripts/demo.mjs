// One command from a clean clone to the running demo.
import { built, demoLoaded, installed, say } from './lib/prepare.mjs';
import { run } from './lib/run.mjs';

const port = process.env.PORT ?? '4310';
const data = process.env.NEST_EGG_DATA ?? 'data';

await installed();
await built();
await demoLoaded(data, process.argv.includes('--fresh'));
say('starting the server');
const serving = run(process.execPath, ['scripts/start.mjs'], {
  env: { PORT: port, NEST_EGG_DATA: data },
  output: 'errors',
});
const address = `http://127.0.0.1:${port}`;
for (let tries = 0; tries < 300; tries++) {
  const answer = await fetch(address).catch(() => null);
  if (answer?.ok) break;
  await new Promise((resolve) => setTimeout(resolve, 100));
}
say(`Kittiwake Sails & Rigging is open (Ctrl+C ends it): ${address}`);
await serving;
