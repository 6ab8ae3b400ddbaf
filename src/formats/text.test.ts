import type { ByteSource } from './finding';
import { FileRefused } from './finding';
import { decodeAs, decodeLenient, decodeText, decodeXml, ENCODINGS, type Encoding, type TextChunk } from './text';

const source = (bytes: Uint8Array, size: number): ByteSource =>
  (async function* () {
    for (let at = 0; at < bytes.length; at += size) yield await Promise.resolve(bytes.subarray(at, at + size));
  })();

async function joined(chunks: AsyncGenerator<TextChunk>): Promise<string> {
  let text = '';
  for await (const chunk of chunks) text += chunk.text;
  return text;
}

const refusedFor = async (chunks: AsyncGenerator<TextChunk>) => {
  const error = await joined(chunks).then(
    () => null,
    (thrown: unknown) => thrown,
  );
  return error instanceof FileRefused ? error.finding.code : null;
};

const TEXT = 'Zoë;Bérénice\nÜnal;12,50 €\n';
const wide = (text: string, big: boolean) => {
  const bytes = Buffer.from(text, 'utf16le');
  return big ? bytes.swap16() : bytes;
};
const BYTES: Readonly<Record<Exclude<Encoding, 'auto'>, Buffer>> = {
  'utf-8': Buffer.from(TEXT),
  'utf-16le': wide(TEXT, false),
  'utf-16be': wide(TEXT, true),
  'windows-1252': Buffer.from(TEXT.replace('€', '\x80'), 'latin1'),
};

describe.each(ENCODINGS.filter((one) => one !== 'auto'))('%s', (encoding) => {
  test.each([1, 2, 3, 7, 4096])('is read in pieces of %d bytes', async (size) => {
    expect(await joined(decodeAs(source(BYTES[encoding], size), encoding))).toBe(TEXT);
  });
});

describe('a byte order mark', () => {
  test.each([
    ['utf-8', Buffer.concat([Buffer.from([0xef, 0xbb, 0xbf]), BYTES['utf-8']])],
    ['utf-16le', Buffer.concat([Buffer.from([0xff, 0xfe]), BYTES['utf-16le']])],
    ['utf-16be', Buffer.concat([Buffer.from([0xfe, 0xff]), BYTES['utf-16be']])],
  ] as const)('of %s has the last word, whatever was said', async (_, bytes) => {
    for (const said of ENCODINGS) expect(await joined(decodeAs(source(bytes, 4096), said))).toBe(TEXT);
    expect(await joined(decodeText(source(bytes, 4096)))).toBe(TEXT);
  });
});

describe('what is no text', () => {
  test('in the encoding that was said refuses the file', async () => {
    expect(await refusedFor(decodeAs(source(BYTES['windows-1252'], 9), 'utf-8'))).toBe('encoding');
    expect(await refusedFor(decodeText(source(BYTES['windows-1252'], 9)))).toBe('encoding');
    expect(await refusedFor(decodeAs(source(Buffer.from([0x41]), 9), 'utf-16le'))).toBe('encoding');
  });

  test('NUL refuses it too', async () => {
    const bytes = Buffer.from('a\0b\n');
    for (const read of [decodeText, decodeLenient]) expect(await refusedFor(read(source(bytes, 2)))).toBe('not-text');
    expect(await refusedFor(decodeAs(source(bytes, 2), 'windows-1252'))).toBe('not-text');
  });

  test('a line without an end is not held for ever', async () => {
    const endless = Buffer.alloc(5 * 1024 * 1024, 0x61);
    expect(await refusedFor(decodeLenient(source(endless, 1 << 18)))).toBe('line-too-long');
  });
});

test('two encodings in one file keep the letters of both, line by line', async () => {
  const mixed = Buffer.concat([Buffer.from('Zoë\n'), Buffer.from('B\xe9r\xe9nice\n', 'latin1'), Buffer.from('Ünal')]);
  for (const size of [1, 5, 4096]) expect(await joined(decodeLenient(source(mixed, size)))).toBe('Zoë\nBérénice\nÜnal');
});

test('nothing is nothing', async () => {
  for (const encoding of ENCODINGS) expect(await joined(decodeAs(source(Buffer.alloc(0), 1), encoding))).toBe('');
});

describe('an XML document', () => {
  const declared = (encoding: string) => `<?xml version="1.0" encoding="${encoding}"?>\n<a>Zoë Ünal</a>`;
  const latin = (encoding: string) => Buffer.from(declared(encoding), 'latin1');
  test.each(['ISO-8859-1', 'iso-8859-15', 'Windows-1252', 'latin1'])(
    'is read in %s if it says so',
    async (encoding) => {
      for (const size of [1, 5, 4096])
        expect(await joined(decodeXml(source(latin(encoding), size)))).toBe(declared(encoding));
    },
  );

  test('is UTF-8 where it says nothing; what is no text in it, or in no encoding known, refuses it', async () => {
    expect(await joined(decodeXml(source(Buffer.from('<a>Zoë</a>'), 3)))).toBe('<a>Zoë</a>');
    expect(await refusedFor(decodeXml(source(latin('UTF-8'), 9)))).toBe('encoding');
    expect(await refusedFor(decodeXml(source(latin('x-mystery'), 9)))).toBe('encoding-unknown');
    expect(await refusedFor(decodeXml(source(wide('<a/>', false), 9)))).toBe('not-text');
  });

  test('with a byte order mark is what that says', async () => {
    const bytes = Buffer.concat([Buffer.from([0xff, 0xfe]), wide(declared('ISO-8859-1'), false)]);
    expect(await joined(decodeXml(source(bytes, 7)))).toBe(declared('ISO-8859-1'));
  });
});
