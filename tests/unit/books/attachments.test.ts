import { attach, attachmentsOf, mediaTypeOf, setAttachment } from '@/books/billing/attachments';
import { bill, issue, payerNamed } from './bills';
import { useWorld } from './world';

const world = useWorld();

const bytes = (text: string) => new TextEncoder().encode(text);
const PNG = Uint8Array.from([
  0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 13, 0x49, 0x48, 0x44, 0x52, 0, 0, 0, 1, 0, 0, 0, 1, 8, 6, 0,
  0, 0,
]);
const PDF = bytes('%PDF-1.7\n1 0 obj\n<<>>\nendobj\n');

test.each<[string, Uint8Array, { type: string } | { found: string }]>([
  ['report.pdf', PDF, { type: 'application/pdf' }],
  ['REPORT.PDF', PDF, { type: 'application/pdf' }],
  ['scan.png', PNG, { type: 'image/png' }],
  ['scan.pdf', PNG, { found: 'a file of the kind image/png' }],
  ['rows.csv', bytes('a,b\n1,2\n'), { type: 'text/csv' }],
  ['note.txt', bytes('paid in cash, Zoë'), { type: 'text/plain' }],
  ['note.txt', Uint8Array.from([0x41, 0xc3, 0x28]), { found: 'no readable text' }],
  ['note.txt', bytes('a\0b'), { found: 'no readable text' }],
  ['picture.png', bytes('not a picture'), { found: 'plain text' }],
  ['page.html', bytes('<script>alert(1)</script>'), { found: 'plain text' }],
  ['program.exe', Uint8Array.from([1, 2, 0, 4]), { found: 'nothing that is known here' }],
  ['nameless', PDF, { found: 'a file of the kind application/pdf' }],
])('%s is taken for what is in it', async (name, data, expected) => {
  expect(await mediaTypeOf(name, data)).toEqual(expected);
});

describe('a file that is tied to a document', () => {
  const file = { name: 'report.pdf', type: 'application/pdf', sha256: 'a'.repeat(64), bytes: 1_024 };
  const invoice = async () => (await issue(world, await bill(world, await payerNamed(world), [10_000]))).invoice;
  const names = async (id: number) => (await attachmentsOf(world.books.reader, 'invoice', id)).map(({ name }) => name);

  test('stands with it, is taken off, and put back by undo', async () => {
    const id = await invoice();
    const { attachment } = await world.must(attach, { subject: 'invoice', id, ...file });
    await world.must(attach, { subject: 'invoice', id, ...file, name: '../..\\etc/second.pdf' });
    expect(await names(id)).toEqual(['report.pdf', '..-..-etc-second.pdf']);
    await world.must(setAttachment, { attachment, removed: true });
    expect(await names(id)).toEqual(['..-..-etc-second.pdf']);
    const audits = await world.count('audit');
    await world.must(setAttachment, { attachment, removed: true });
    expect(await world.count('audit')).toBe(audits);
    await world.undoLast();
    expect(await names(id)).toHaveLength(2);
  });

  test('is undone as it was made', async () => {
    const id = await invoice();
    await world.must(attach, { subject: 'invoice', id, ...file });
    await world.undoLast();
    expect(await names(id)).toEqual([]);
    await world.undoLast();
    expect(await names(id)).toEqual(['report.pdf']);
  });

  test('is refused where there is no such document, where it is too large, and where its hash is none', async () => {
    const id = await invoice();
    expect(await world.refusal(attach, { subject: 'invoice', id: 999, ...file })).toBe('not-found');
    expect(await world.refusal(attach, { subject: 'gift-batch', id, ...file })).toBe('not-found');
    expect(await world.refusal(attach, { subject: 'invoice', id, ...file, bytes: 11 * 1024 * 1024 })).toBe(
      'invalid-input',
    );
    expect(await world.refusal(attach, { subject: 'invoice', id, ...file, sha256: 'abc' })).toBe('invalid-input');
    expect(await world.refusal(setAttachment, { attachment: 99, removed: true })).toBe('not-found');
  });
});
