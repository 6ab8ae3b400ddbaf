import { spawn } from 'node:child_process';

/** Runs a command with its output on the screen; fails where it fails. */
export function run(command, args, { env = {}, quiet = false } = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, {
      stdio: quiet ? ['ignore', 'ignore', 'inherit'] : 'inherit',
      env: { ...process.env, ...env },
    });
    child.on('error', reject);
    child.on('exit', (code) =>
      code === 0 ? resolve() : reject(new Error(`${command} ${args.join(' ')} ended with ${code}`)),
    );
  });
}
