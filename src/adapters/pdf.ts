import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import bidiFactory from 'bidi-js';
import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces';

export type { Content, TDocumentDefinitions } from 'pdfmake/interfaces';

/** Each font file holds some scripts only; the first whose ranges hold a letter sets it. */
const SCRIPTS: readonly {
  readonly font: string;
  readonly family: string;
  readonly subset: string;
  readonly holds: RegExp;
}[] = [
  {
    font: 'Plex',
    family: 'ibm-plex-sans',
    subset: 'latin',
    holds: /[\u0020-\u00ff\u0131\u0152\u0153\u02c6\u02da\u02dc\u2000-\u206f\u20ac\u2122\u2212]/,
  },
  { font: 'PlexExt', family: 'ibm-plex-sans', subset: 'latin-ext', holds: /[\u0100-\u02af\u1e00-\u1eff\u20a0-\u20c0]/ },
  {
    font: 'PlexCyrillic',
    family: 'ibm-plex-sans',
    subset: 'cyrillic',
    holds: /[\u0400-\u045f\u0490\u0491\u04b0\u04b1\u2116]/,
  },
  { font: 'PlexGreek', family: 'ibm-plex-sans', subset: 'greek', holds: /[\u0370-\u03ff]/ },
  { font: 'PlexHebrew', family: 'ibm-plex-sans-hebrew', subset: 'hebrew', holds: /[\u0590-\u05ff\ufb1d-\ufb4f]/ },
  {
    font: 'PlexArabic',
    family: 'ibm-plex-sans-arabic',
    subset: 'arabic',
    holds: /[\u0600-\u06ff\u0750-\u077f\ufb50-\ufdff\ufe70-\ufefc]/,
  },
];

const RIGHT_TO_LEFT = /[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufefc]/;
const bidi = bidiFactory();

/**
 * A line's words in the order in which they stand on paper from left to right (Unicode bidirectional algorithm, rule L2, a word
 * at a time: within a word the font's own shaping turns the letters).
 */
function wordsAsTheyStand(line: string): string {
  if (!RIGHT_TO_LEFT.test(line)) return line;
  const { levels } = bidi.getEmbeddingLevels(line);
  const words = [...line.matchAll(/\S+/g)].map(({ 0: word, index }) => ({ word, level: levels[index]! }));
  for (let level = Math.max(...words.map((one) => one.level)); level > 0; level--) {
    for (let from = 0; from < words.length; from++) {
      let to = from;
      while (to < words.length && words[to]!.level >= level) to++;
      if (to > from + 1) words.splice(from, to - from, ...words.slice(from, to).reverse());
      from = to;
    }
  }
  return words.map(({ word }) => word).join(' ');
}

/** A text as runs of the fonts that hold its letters. A letter that no font here holds is printed as "?". */
export function printed(text: string): Content[] {
  const runs: { text: string; font: string }[] = [];
  for (const letter of text.split('\n').map(wordsAsTheyStand).join('\n')) {
    const script = SCRIPTS.find(({ holds }) => holds.test(letter));
    const [font, shown] = script || letter === '\n' ? [script?.font ?? 'Plex', letter] : ['Plex', '?'];
    const last = runs.at(-1);
    if (last && (last.font === font || letter === ' ')) last.text += shown;
    else runs.push({ text: shown, font });
  }
  return runs;
}

interface Printer {
  setFonts(fonts: Record<string, Record<'normal' | 'bold', string>>): void;
  setLocalAccessPolicy(may: (path: string) => boolean): void;
  setUrlAccessPolicy(may: () => boolean): void;
  createPdf(definition: TDocumentDefinitions): { getBuffer(): Promise<Buffer> };
}

let ready: Printer | null = null;

function printer(): Printer {
  if (ready) return ready;
  const load = createRequire(join(process.cwd(), 'package.json'));
  const made = load('pdfmake') as Printer;
  const fonts = dirname(dirname(load.resolve('@fontsource/ibm-plex-sans/package.json')));
  const file = ({ family, subset }: (typeof SCRIPTS)[number], weight: number) =>
    join(fonts, family, 'files', `${family}-${subset}-${weight}-normal.woff`);
  made.setFonts(
    Object.fromEntries(SCRIPTS.map((script) => [script.font, { normal: file(script, 400), bold: file(script, 600) }])),
  );
  // A document is made of what it is given: it reads its fonts, and nothing else of this machine or the network.
  made.setLocalAccessPolicy((path) => path.startsWith(fonts));
  made.setUrlAccessPolicy(() => false);
  return (ready = made);
}

/** Prints a document as PDF: text stays selectable, fonts are embedded. */
export async function printPdf(definition: TDocumentDefinitions): Promise<Uint8Array> {
  const whole: TDocumentDefinitions = {
    pageSize: 'A4',
    pageMargins: [50, 50, 50, 60],
    defaultStyle: { font: 'Plex', fontSize: 9.5, color: '#2A2030', lineHeight: 1.25 },
    ...definition,
  };
  return new Uint8Array(await printer().createPdf(whole).getBuffer());
}
