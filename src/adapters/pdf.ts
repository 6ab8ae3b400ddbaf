import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces';

export type { Content, TDocumentDefinitions } from 'pdfmake/interfaces';

/** Each font file holds some scripts only; the first whose ranges hold a letter sets it. */
const SCRIPTS: readonly { readonly font: string; readonly subset: string; readonly holds: RegExp }[] = [
  {
    font: 'Plex',
    subset: 'latin',
    holds: /[\u0020-\u00ff\u0131\u0152\u0153\u02c6\u02da\u02dc\u2000-\u206f\u20ac\u2122\u2212]/,
  },
  { font: 'PlexExt', subset: 'latin-ext', holds: /[\u0100-\u02af\u1e00-\u1eff\u20a0-\u20c0]/ },
  { font: 'PlexCyrillic', subset: 'cyrillic', holds: /[\u0400-\u045f\u0490\u0491\u04b0\u04b1\u2116]/ },
  { font: 'PlexGreek', subset: 'greek', holds: /[\u0370-\u03ff]/ },
];

/** A text as runs of the fonts that hold its letters. A letter that no font here holds is printed as "?". */
export function printed(text: string): Content[] {
  const runs: { text: string; font: string }[] = [];
  for (const letter of text) {
    const script = SCRIPTS.find(({ holds }) => holds.test(letter));
    const [font, shown] = script ? [script.font, letter] : ['Plex', '?'];
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
  const files = join(dirname(load.resolve('@fontsource/ibm-plex-sans/package.json')), 'files');
  const file = (subset: string, weight: number) => join(files, `ibm-plex-sans-${subset}-${weight}-normal.woff`);
  made.setFonts(
    Object.fromEntries(
      SCRIPTS.map(({ font, subset }) => [font, { normal: file(subset, 400), bold: file(subset, 600) }]),
    ),
  );
  // A document is made of what it is given: it reads its fonts, and nothing else of this machine or the network.
  made.setLocalAccessPolicy((path) => path.startsWith(files));
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
