import 'server-only';
import { join } from 'node:path';
import { Answers } from '@/standins/answers';
import { Worlds } from '@/standins/worlds';

const HELD = Symbol.for('nest-egg.standins');
const held = ((globalThis as { [HELD]?: { worlds: Worlds; answers: Answers } })[HELD] ??= {
  worlds: new Worlds(join(process.env.NEST_EGG_DATA ?? 'data', 'standins')),
  answers: new Answers(),
});

export const { worlds, answers } = held;
