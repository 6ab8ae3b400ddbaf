import { spawn } from 'node:child_process';

/**
 * Runs a command and fails where it fails. Its output is on the screen; with `quiet` or `output: 'errors'` only its
 * errors are.
 */
export function run(command, args, { env = {}, quiet = false, output = 'all' } = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, {
      stdio: quiet || output === 'errors' ? ['ignore', 'ignore', 'inherit'] : 'inherit',
      env: { ...process.env, ...env },
    });
    for (const signal of ['SIGINT', 'SIGTERM']) process.once(signal, () => child.kill(signal));
    child.on('error', reject);
    child.on('exit', (code, signal) =>
      code === 0 || signal === 'SIGINT' || signal === 'SIGTERM'
        ? resolve()
        : reject(new Error(`${command} ${args.join(' ')} ended with ${code ?? signal}`)),
    );
  });
}
