import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { World, type WorldSeed } from './world';

/** The simulated worlds in a folder: each a seed that stays, and the day it has come to. */
export class Worlds {
  private readonly held = new Map<string, World>();

  constructor(private readonly folder: string) {}

  static found(folder: string, seed: WorldSeed): void {
    mkdirSync(folder, { recursive: true });
    writeFileSync(join(folder, `${seed.account}.seed.json`), JSON.stringify(seed));
    writeFileSync(join(folder, `${seed.account}.day`), seed.begins);
  }

  private path(account: string, end: 'seed.json' | 'day'): string {
    return join(/*turbopackIgnore: true*/ this.folder, `${account}.${end}`);
  }

  names(): string[] {
    if (!existsSync(this.folder)) return [];
    return readdirSync(this.folder)
      .filter((name) => name.endsWith('.seed.json'))
      .map((name) => name.slice(0, -'.seed.json'.length))
      .sort();
  }

  /** The world of an account on its day; null where there is none. */
  find(account: string): World | null {
    if (!/^[a-z0-9-]{1,60}$/.test(account) || !existsSync(this.path(account, 'seed.json'))) return null;
    const day = readFileSync(this.path(account, 'day'), 'utf8').trim();
    const held = this.held.get(account);
    if (held?.day === day) return held;
    const seed = held?.seed ?? (JSON.parse(readFileSync(this.path(account, 'seed.json'), 'utf8')) as WorldSeed);
    const world = new World(seed, day);
    this.held.set(account, world);
    return world;
  }

  /** Turns a world to its next working day. */
  turn(account: string): World | null {
    const world = this.find(account);
    if (!world) return null;
    const path = this.path(account, 'day');
    writeFileSync(`${path}.next`, world.tomorrow);
    renameSync(`${path}.next`, path);
    return this.find(account);
  }
}
