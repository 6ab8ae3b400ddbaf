import { egg } from './egg';

void egg(process.argv.slice(2), { say: (text) => console.log(text), wrong: (text) => console.error(text) }).then(
  (code) => (process.exitCode = code),
);
