// Sets up whatever is missing on a fresh machine, and says what is going on.
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { run } from './run.mjs';

const say = (text) => console.log(`• ${text}`);

function digest(paths) {
  const hash = createHash('sha256');
  const visit = (path) => {
    if (!existsSync(path)) return;
    if (statSync(path).isDirectory()) for (const name of readdirSync(path).sort()) visit(join(path, name));
    else hash.update(path).update(readFileSync(path));
  };
  paths.forEach(visit);
  return hash.digest('hex');
}

/** Runs a step only where what it is made from has changed since it last succeeded here. */
async function unlessDone(name, from, there, step) {
  const mark = join('node_modules', '.nest-egg', name);
  const now = digest(from);
  if (there() && existsSync(mark) && readFileSync(mark, 'utf8') === now) return;
  await step();
  mkdirSync(join('node_modules', '.nest-egg'), { recursive: true });
  writeFileSync(mark, now);
}

/** Dependencies, from the lock file. SQLite's binding compiles here, which is what takes its time. */
export async function installed() {
  await unlessDone(
    'installed',
    ['package.json', 'package-lock.json'],
    () => existsSync('node_modules/better-sqlite3/build/Release/better_sqlite3.node'),
    async () => {
      say('installing packages; SQLite compiles on the way, which takes about two minutes');
      // Not `npm ci`: it insists on entries for other platforms' binaries, which a registry need not have.
      await run('npm', ['install', '--no-save', '--no-audit', '--no-fund', '--loglevel=error']);
    },
  );
}

/** The worker and the pages. */
export async function built() {
  await unlessDone(
    'built',
    ['package-lock.json', 'next.config.ts', 'tsconfig.json', 'src', 'scripts/build.mjs'],
    () => existsSync('.next/BUILD_ID') && existsSync('dist/worker.js'),
    async () => {
      say('building the application, about a minute');
      await run(process.execPath, ['scripts/build.mjs']);
    },
  );
}

/** Debian's Chromium, for the tests that drive the pages. */
export async function withChromium() {
  const chromium = process.env.CHROMIUM ?? '/usr/bin/chromium';
  if (existsSync(chromium)) return;
  say('installing Chromium from Debian’s packages');
  await run('apt-get', ['update', '-qq'], { quiet: true });
  await run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'chromium'], {
    quiet: true,
    env: { DEBIAN_FRONTEND: 'noninteractive' },
  });
}

/** The demo's books, made once; `npm run demo -- --fresh` makes them anew. */
export async function demoLoaded(data, fresh) {
  const made = ['kittiwake', 'driftline', 'lantern-head'].every((name) =>
    existsSync(join(data, 'books', `${name}.sqlite`)),
  );
  if (!fresh && made) return;
  say('making the demo books');
  await run(process.execPath, ['node_modules/tsx/dist/cli.mjs', 'demo/load.ts'], { env: { NEST_EGG_DATA: data } });
}

export { say };
