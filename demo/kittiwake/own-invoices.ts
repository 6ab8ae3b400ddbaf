import { correctInvoice } from '@/books/billing/correct';
import { creditInvoice } from '@/books/billing/credit';
import { saveInvoiceDraft } from '@/books/billing/drafts';
import { savePlan, switchPlan } from '@/books/billing/plans';
import { sendInvoice } from '@/books/billing/hand-out';
import { issueInvoice } from '@/books/billing/issue';
import type { BillInput } from '@/books/billing/bill-input';
import { setPayerDetails, type PayerDetails } from '@/books/payers/details';
import { keepTerms, setLetterhead } from '@/books/setup/list-commands';
import { plainDate } from '@/core/calendar';
import { minor } from '@/core/money';
import type { DemoLoader } from '../loader';

const NOBODY: PayerDetails = {
  name: '',
  email: '',
  emails: [],
  address: '',
  country: 'IE',
  taxNumber: '',
  terms: null,
  note: '',
  archived: false,
  externals: [],
};

/** What Kittiwake writes itself since November: its letterhead and terms, and invoices in every state. */
export async function writeOwnInvoices(demo: DemoLoader): Promise<void> {
  await demo.run(setLetterhead, {
    address: 'The Slip, Harbour Road\nTernport',
    email: 'office@kittiwake.example',
    tax_number: 'IE 0000000K',
    number_prefix: 'K',
    write_off_limit: minor(100),
    bic: 'SKERIE2D',
  });
  const early = await demo.run(keepTerms, {
    id: null,
    name: '30 days, 2 % within 10',
    due_days: 30,
    discount_rate: 200,
    discount_days: 10,
    archived: 0,
  });
  const fortnight = await demo.run(keepTerms, {
    id: null,
    name: '14 days',
    due_days: 14,
    discount_rate: 0,
    discount_days: 0,
    archived: 0,
  });
  const payer = async (details: Partial<PayerDetails>) =>
    (await demo.run(setPayerDetails, { payer: null, details: { ...NOBODY, ...details } })).payer;
  const school = await payer({
    name: 'Ternport Sailing School',
    email: 'accounts@ternport-sailing.example',
    address: '4 Strand\nTernport',
    terms: early.id,
    taxNumber: 'IE 0000001T',
  });
  const ferry = await payer({
    name: 'Islands Ferry Co-operative',
    email: 'office@islands-ferry.example',
    address: 'Pier 2\nInishglass',
    terms: fortnight.id,
  });
  const db = demo.books.reader;
  const items = new Map((await db.selectFrom('item').selectAll().execute()).map((item) => [item.code, item]));
  const line = (
    code: string,
    description: string,
    quantity: number,
    price: number,
    discount = 0,
  ): BillInput['lines'][number] => {
    const item = items.get(code)!;
    return {
      item: item.id,
      description,
      quantity,
      price: minor(price),
      discount,
      taxCode: item.tax_code_id,
      dimensions: [],
    };
  };
  const bill = (
    to: number,
    issued: string,
    terms: number,
    lines: BillInput['lines'],
    more: Partial<BillInput> = {},
  ): BillInput => ({
    payer: to,
    issued: plainDate(issued),
    due: null,
    terms,
    reference: '',
    note: '',
    privateNote: '',
    lines,
    ...more,
  });
  const issue = async (of: BillInput) => {
    const { draft } = await demo.run(saveInvoiceDraft, { draft: null, bill: of });
    return demo.run(issueInvoice, { draft, bill: of });
  };
  const send = (invoice: number, to: string) =>
    demo.run(sendInvoice, { invoice, to, message: '', origin: 'http://127.0.0.1:4310', books: 'kittiwake' });

  const mainsail = await issue(
    bill(
      school,
      '2026-11-10',
      early.id,
      [
        line('repair', 'Mainsail of the Guillemot, two panels', 1000, 18_000),
        line('repair', 'Sewing, by the hour', 2500, 4800),
      ],
      { reference: 'PO 118' },
    ),
  );
  await send(mainsail.invoice, 'accounts@ternport-sailing.example');
  const checks = bill(ferry, '2026-11-02', fortnight.id, [
    line('rig-check', 'Rig check, three boats', 3000, 8500, 1000),
  ]);
  const checked = await issue(checks);
  await send(checked.invoice, 'office@islands-ferry.example');
  await demo.run(correctInvoice, {
    invoice: checked.invoice,
    version: 1,
    bill: { ...checks, lines: [line('rig-check', 'Rig check, two boats', 2000, 8500, 1000)] },
    why: 'The third boat was out',
  });
  const twice = await issue(bill(ferry, '2026-11-03', fortnight.id, [line('parts', 'Shackles and line', 1000, 6240)]));
  await demo.run(creditInvoice, {
    invoice: twice.invoice,
    lines: null,
    why: 'Billed at the counter already',
    issued: '2026-11-04',
  });
  await issue(bill(school, '2026-11-12', early.id, [line('lesson', 'Lesson for instructors', 1000, 20_000)]));
  // Training over the winter: it bills on the last day of each month, with a higher price from the new year.
  const training = bill(ferry, '2026-11-30', fortnight.id, [
    line('lesson', 'Crew training, winter season', 1000, 12_000),
  ]);
  const { plan } = await demo.run(savePlan, {
    plan: null,
    name: 'Winter training, ferry crew',
    bill: training,
    recurrence: {
      every: 'month',
      starts: plainDate('2026-11-30'),
      lastDay: true,
      ends: plainDate('2027-04-15'),
      pausedFrom: null,
      resumes: null,
      prorates: true,
    },
    prices: [{ line: 0, from: plainDate('2027-01-01'), price: minor(13_500) }],
    sends: true,
  });
  await demo.run(switchPlan, { plan, on: true, billsFrom: null });
  const next = bill(school, '2026-11-16', early.id, [line('parts', 'Sail ties', 12_000, 350)]);
  await demo.run(saveInvoiceDraft, { draft: null, bill: next });
}
