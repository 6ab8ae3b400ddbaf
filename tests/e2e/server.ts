import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { loadDriftline } from '../../demo/driftline/load';
import { loadLanternHead } from '../../demo/lantern-head/load';
import { loadKittiwake } from '../../demo/load';

/** The built app on its own port with demo books of its own. */
export class Server {
  private process: ChildProcess | null = null;

  private constructor(
    readonly data: string,
    readonly port: number,
  ) {}

  static async start(port: number): Promise<Server> {
    const data = mkdtempSync(join(tmpdir(), 'nest-egg-e2e-'));
    for (const load of [loadKittiwake, loadDriftline, loadLanternHead]) await load(data, () => {});
    const server = new Server(data, port);
    await server.up();
    return server;
  }

  get address(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  async up(): Promise<void> {
    const next = join('node_modules', 'next', 'dist', 'bin', 'next');
    this.process = spawn(process.execPath, [next, 'start', '-H', '127.0.0.1', '-p', String(this.port)], {
      env: {
        ...process.env,
        NEST_EGG_DATA: this.data,
        PORT: String(this.port),
        NEXT_TELEMETRY_DISABLED: '1',
        NODE_ENV: 'production',
      },
      stdio: ['ignore', 'ignore', 'inherit'],
    });
    for (let tries = 0; tries < 200; tries++) {
      const answer = await fetch(`${this.address}/books/kittiwake`).catch(() => null);
      if (answer?.ok) return;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    throw new Error('the server did not come up');
  }

  /** Ends it at once, as a power cut would. */
  async kill(): Promise<void> {
    const child = this.process;
    if (!child) return;
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGKILL');
    await gone;
    this.process = null;
  }

  async stop(): Promise<void> {
    await this.kill();
    rmSync(this.data, { recursive: true, force: true });
  }
}
