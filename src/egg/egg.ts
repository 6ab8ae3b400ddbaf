import { parseArgs } from 'node:util';
import { COMMANDS, help, OPTIONS } from './commands';
import { EXIT, print, UsageError, type Out } from './output';
import { Place } from './place';

async function run(words: readonly string[], out: Out): Promise<number> {
  const { values, positionals } = parseArgs({ args: [...words], options: OPTIONS, allowPositionals: true });
  const two = positionals.slice(0, 2).join(' ');
  const name = two in COMMANDS ? two : (positionals[0] ?? '');
  const command = COMMANDS[name];
  if (values.help || name === '') {
    out.say(help());
    return values.help ? EXIT.done : EXIT.usage;
  }
  if (!command) throw new UsageError(`There is no command ${positionals.join(' ')}.`);
  const place = new Place(
    values.data ?? process.env.NEST_EGG_DATA ?? 'data',
    values.actor ?? process.env.NEST_EGG_ACTOR ?? 'command line',
  );
  try {
    return print(
      await command.run(place, values, positionals.slice(name.split(' ').length)),
      values.json === true,
      out,
    );
  } finally {
    await place.close();
  }
}

/**
 * The same commands as the pages, without a browser. What is said is the answer alone; what is wrong goes beside it, with
 * `--json` as data in the answer's place.
 * @returns the code to end with, see {@link EXIT}.
 */
export async function egg(words: readonly string[], out: Out): Promise<number> {
  try {
    return await run(words, out);
  } catch (error) {
    const wrongUse =
      error instanceof UsageError || String((error as { code?: string }).code).startsWith('ERR_PARSE_ARGS');
    const message = error instanceof Error ? error.message : String(error);
    if (words.includes('--json')) out.say(JSON.stringify({ ok: false, [wrongUse ? 'usage' : 'error']: message }));
    else
      out.wrong(
        wrongUse ? `${message}\nSay “npm run egg -- --help” for what there is.` : ((error as Error).stack ?? message),
      );
    return wrongUse ? EXIT.usage : EXIT.failed;
  }
}
