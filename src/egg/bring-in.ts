import { createReadStream, existsSync } from 'node:fs';
import type { Result } from '@/books/command';
import type { ImportReport } from '@/books/imports/import-file';
import { invoicesImporter } from '@/books/invoices/import';
import { receiptsFrom } from '@/books/receipts/import';
import { lookAtFile } from '@/books/receipts/sniff-file';
import { statementsFrom } from '@/books/statements/import';
import { isComplete, lookAtStatement } from '@/books/statements/read-file';
import type { Reading } from '@/books/store';
import { formatAmount } from '@/core/money';
import { findingWords } from '@/formats/finding-words';
import { receiptProfile } from '@/formats/receipts/profile';
import { statementProfile } from '@/formats/statements/profile';
import type { EggCommand } from './commands';
import { answer, answerOf, UsageError, type Answer } from './output';
import type { Place } from './place';

function opened(path: string | undefined): () => AsyncIterable<Uint8Array> {
  if (path === undefined) throw new UsageError('Say which file with --file.');
  if (!existsSync(path)) throw new UsageError(`There is no file ${path}.`);
  return () => createReadStream(path);
}

/** What came of a file; one that is refused whole is a refusal, rows that are refused leave the others in. */
function reported(result: Result<ImportReport>): Answer {
  if (result.ok && result.value.fileFinding) {
    const { what, next } = findingWords(result.value.fileFinding);
    return {
      value: null,
      text: [],
      refusal: { code: 'invalid-input', field: result.value.fileName, expected: `${what} ${next}` },
    };
  }
  const say = ({ added, known, updated, changed, refused, groups, currency, findings }: ImportReport) => [
    `${added} new, ${known} here already, ${updated} known better, ${changed} changed since, ${refused} refused`,
    ...groups.map((group) => `  ${group.label}: ${group.added}, ${formatAmount(group.amount, currency)} ${currency}`),
    ...findings.map((finding) => `  ${findingWords(finding).what}`),
  ];
  return answerOf(result, say, ({ refused }) => refused > 0);
}

async function channelNamed(db: Reading, name: string | undefined): Promise<number> {
  const channels = await db.selectFrom('channel').select(['id', 'name']).orderBy('id').execute();
  const found = name === undefined && channels.length === 1 ? channels[0] : channels.find((one) => one.name === name);
  if (!found) throw new UsageError(`Say which channel with --channel: ${channels.map((one) => one.name).join(', ')}.`);
  return found.id;
}

/** How a file of receipts is read: as its profile says, as its header was read before, or because its columns are our own. */
async function receiptReading(
  place: Place,
  books: string | undefined,
  channel: number,
  file: string | undefined,
  profile: string | undefined,
) {
  const look = await place.read(books, (db) => lookAtFile(db, opened(file), channel));
  if (look.kind === 'refused') return { finding: look.finding };
  if (look.kind === 'own') return {};
  const said = profile === undefined ? look.saved : receiptProfile.safeParse(place.json(profile)).data;
  if (!said)
    throw new UsageError(
      profile === undefined
        ? 'Say how the file is read with --profile; “look” gives one to begin with.'
        : `${profile} is no profile.`,
    );
  return { profile: { fingerprint: look.sniffed.fingerprint, settings: said } };
}

async function statementReading(
  place: Place,
  books: string | undefined,
  file: string | undefined,
  profile: string | undefined,
) {
  if (profile === undefined) return undefined;
  const settings = statementProfile.safeParse(place.json(profile)).data;
  if (!settings) throw new UsageError(`${profile} is no profile.`);
  const look = await place.read(books, (db) => lookAtStatement(db, opened(file)));
  if (look.format !== 'table') throw new UsageError(`The file is ${look.format} and needs no profile.`);
  return { fingerprint: look.sniffed.fingerprint, settings };
}

/** Files that come in. */
export const BRING_IN: Readonly<Record<string, EggCommand>> = {
  'look receipts': {
    takes: '--file <file> [--channel <name>]',
    does: 'says how a file of receipts seems to be read: a profile to correct and give to “receipts”',
    async run(place, { books, channel, file }) {
      const of = await place.read(books, (db) => channelNamed(db, channel));
      const look = await place.read(books, (db) => lookAtFile(db, opened(file), of));
      if (look.kind === 'refused')
        return {
          value: null,
          text: [],
          refusal: { code: 'invalid-input', field: file!, expected: findingWords(look.finding).what },
        };
      if (look.kind === 'own')
        return answer({ own: true }, ['It has the columns of this program and needs no profile.']);
      const { profile, rows, ambiguousDates } = look.sniffed;
      return answer({ profile: look.saved ?? profile, rows, ambiguousDates }, [
        JSON.stringify(look.saved ?? profile, null, 2),
      ]);
    },
  },
  'look statements': {
    takes: '--file <file>',
    does: 'says what a statement file is; of a table a profile to correct and give to “statements”',
    async run(place, { books, file }) {
      const look = await place.read(books, (db) => lookAtStatement(db, opened(file)));
      if (look.format !== 'table') return answer({ format: look.format }, [look.format]);
      const profile = look.saved ?? look.sniffed.profile;
      return answer({ format: look.format, profile, complete: isComplete(look.sniffed) }, [
        JSON.stringify(profile, null, 2),
      ]);
    },
  },
  invoices: {
    takes: '--file <csv>',
    does: 'brings invoices in',
    run: async (place, { books, file, 'dry-run': dry }) => {
      opened(file);
      return reported(await place.bringIn(books, invoicesImporter, file!, dry === true));
    },
  },
  receipts: {
    takes: '--file <file> [--channel <name>] [--profile <json>]',
    does: 'brings receipts of a channel in',
    async run(place, { books, channel: name, file, profile, 'dry-run': dry }) {
      const channel = await place.read(books, (db) => channelNamed(db, name));
      const reading = await receiptReading(place, books, channel, file, profile);
      if ('finding' in reading && reading.finding) {
        return {
          value: null,
          text: [],
          refusal: { code: 'invalid-input', field: file!, expected: findingWords(reading.finding).what },
        };
      }
      return reported(await place.bringIn(books, receiptsFrom({ channel, ...reading }), file!, dry === true));
    },
  },
  statements: {
    takes: '--file <file> [--profile <json>]',
    does: 'brings a bank’s statements in: camt.053, camt.054, MT940, OFX, BAI2, CSV, XLSX',
    async run(place, { books, file, profile, 'dry-run': dry }) {
      opened(file);
      const reading = await statementReading(place, books, file, profile);
      return reported(await place.bringIn(books, statementsFrom(reading), file!, dry === true));
    },
  },
};
