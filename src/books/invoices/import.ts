import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import { writeAmount, type Minor } from '@/core/money';
import { lineTax, taxIsPlausible } from '@/core/receivables';
import { readInvoicesCsv, type InvoiceLineRecord } from '@/formats/invoices/invoices-csv';
import type { Importer } from '../imports/import-file';
import { resolvePayers } from '../imports/stage-payers';
import type { Reading } from '../store';
import { PLAIN_TABLE } from '../imports/refused-rows';

const LINE_COLUMNS = `
  line INTEGER PRIMARY KEY, number TEXT NOT NULL, payer TEXT NOT NULL, email TEXT NOT NULL, issued TEXT NOT NULL,
  due TEXT NOT NULL, currency TEXT NOT NULL, item TEXT NOT NULL, description TEXT NOT NULL, net INTEGER NOT NULL,
  tax_code TEXT NOT NULL, tax INTEGER NOT NULL`;

async function gatherInvoices(db: Reading): Promise<void> {
  await sql`DROP TABLE IF EXISTS temp.stage_invoice`.execute(db);
  await sql`
    CREATE TEMP TABLE stage_invoice AS
    SELECT number, min(line) AS line, min(payer) AS payer, min(email) AS email, min(issued) AS issued,
           min(due) AS due, min(currency) AS currency, sum(net) AS net, sum(tax) AS tax, sum(net + tax) AS gross,
           min(payer) <> max(payer) OR min(email) <> max(email) OR min(issued) <> max(issued)
             OR min(due) <> max(due) OR min(currency) <> max(currency) AS torn,
           'new' AS action
    FROM temp.stage_invoice_line GROUP BY number
  `.execute(db);
  await sql`CREATE UNIQUE INDEX temp.stage_invoice_number ON stage_invoice (number)`.execute(db);
}

async function judgeInvoices(db: Reading): Promise<void> {
  const find = (query: ReturnType<typeof sql>) => query.execute(db);
  // An invoice with a row that cannot be read is refused whole: its total would be wrong.
  await find(sql`
    UPDATE temp.stage_invoice SET action = 'refused'
    WHERE number IN (SELECT subject FROM temp.stage_finding WHERE scope = 'record')
  `);
  await find(sql`
    INSERT INTO temp.stage_finding (line, scope, code, subject, field, expected, found)
    SELECT line, 'record', 'other-figures', number, 'Number', 'one payer, issue date, due date and currency',
           'rows of ' || number || ' that differ in them'
    FROM temp.stage_invoice WHERE action = 'new' AND torn
    UNION ALL
    SELECT line, 'record', 'bad-total', number, 'Net', 'above zero', printf('%.2f', gross / 100.0)
    FROM temp.stage_invoice WHERE action = 'new' AND NOT torn AND gross <= 0
  `);
  await find(sql`
    UPDATE temp.stage_invoice SET action = 'refused' WHERE action = 'new' AND (torn OR gross <= 0)
  `);
  await find(sql`
    INSERT INTO temp.stage_finding (line, scope, code, subject, field, expected, found)
    SELECT s.line, 'record', 'other-figures', s.number, 'Number',
           printf('net %.2f, tax %.2f, issued %s, due %s', i.net / 100.0, i.tax / 100.0, i.issued, i.due),
           printf('net %.2f, tax %.2f, issued %s, due %s', s.net / 100.0, s.tax / 100.0, s.issued, s.due)
    FROM temp.stage_invoice s JOIN invoice i ON i.number = s.number
    WHERE s.action = 'new' AND (i.net <> s.net OR i.tax <> s.tax OR i.issued <> s.issued OR i.due <> s.due)
  `);
  await find(sql`
    UPDATE temp.stage_invoice SET action =
      CASE WHEN i.net <> stage_invoice.net OR i.tax <> stage_invoice.tax OR i.issued <> stage_invoice.issued
             OR i.due <> stage_invoice.due THEN 'refused' ELSE 'known' END
    FROM invoice AS i WHERE i.number = stage_invoice.number AND stage_invoice.action = 'new'
  `);
}

/** Invoices of the books from a CSV, one row per line. */
export const invoicesImporter: Importer<InvoiceLineRecord> = {
  kind: 'invoices',
  noun: { one: 'invoice', many: 'invoices' },
  reading: PLAIN_TABLE,
  read: (open) => readInvoicesCsv(open()),

  async stage(stage, db) {
    const insert = stage.table('stage_invoice_line', LINE_COLUMNS);
    const { currency } = await db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
    const items = new Set((await db.selectFrom('item').select('code').execute()).map(({ code }) => code));
    const taxCodes = await db.selectFrom('tax_code').select(['code', 'rate']).execute();
    const rates = new Map(taxCodes.map(({ code, rate }) => [code, rate]));
    return (r) => {
      const find = (code: Parameters<typeof stage.find>[0]['code'], field: string, found: string, expected?: string) =>
        stage.find({ scope: 'record', code, line: r.line, subject: r.number, field, found, expected });
      const rate = rates.get(r.taxCode);
      let tax = r.tax;
      if (r.currency !== currency) find('other-currency', 'Currency', r.currency, currency);
      else if (!items.has(r.item)) find('unknown-item', 'Item', r.item);
      else if (rate === undefined) find('unknown-tax-code', 'Tax code', r.taxCode);
      else if (tax !== null && !taxIsPlausible(r.net, rate, tax)) {
        find('bad-tax', 'Tax', writeAmount(tax, currency), writeAmount(lineTax(r.net, rate), currency));
      }
      tax ??= lineTax(r.net, rate ?? 0);
      insert(
        r.line,
        r.number,
        r.payer,
        r.email.toLowerCase(),
        r.issued,
        r.due,
        r.currency,
        r.item,
        r.description,
        r.net,
        r.taxCode,
        tax,
      );
    };
  },

  staged(stage) {
    stage.index('stage_invoice_line', 'number, line');
  },

  async judge(db) {
    await gatherInvoices(db);
    await judgeInvoices(db);
    const { rows } = await sql<{ action: string; n: number }>`
      SELECT action, count(*) AS n FROM temp.stage_invoice GROUP BY action
    `.execute(db);
    const count = (action: string) => rows.find((row) => row.action === action)?.n ?? 0;
    return { added: count('new'), updated: 0, changed: 0, known: count('known') };
  },

  async groups(db) {
    const { rows } = await sql<{ n: number; amount: Minor | null; first: PlainDate | null; last: PlainDate | null }>`
      SELECT count(*) AS n, sum(gross) AS amount, min(issued) AS first, max(issued) AS last
      FROM temp.stage_invoice WHERE action = 'new'
    `.execute(db);
    const { n, amount, first, last } = rows[0]!;
    return {
      groups: n === 0 ? [] : [{ label: 'invoices', added: n, amount: amount! }],
      from: first,
      to: last,
    };
  },

  async apply({ db }, run) {
    await resolvePayers(db, 'stage_invoice');
    await sql`
      INSERT INTO invoice (number, payer_id, issued, due, currency, net, tax, gross, run_id)
      SELECT s.number, sp.id, s.issued, s.due, s.currency, s.net, s.tax, s.gross, ${run}
      FROM temp.stage_invoice s JOIN temp.stage_payer sp ON sp.email = s.email AND sp.payer = s.payer
      WHERE s.action = 'new' ORDER BY s.line
    `.execute(db);
    await sql`
      INSERT INTO invoice_line (invoice_id, line_no, item_id, description, net, tax_code_id, tax, price, rate)
      SELECT i.id, row_number() OVER (PARTITION BY i.id ORDER BY l.line), item.id, l.description, l.net, t.id, l.tax,
        l.net, t.rate
      FROM invoice i
      JOIN temp.stage_invoice_line l ON l.number = i.number
      JOIN item ON item.code = l.item
      JOIN tax_code t ON t.code = l.tax_code
      WHERE i.run_id = ${run}
    `.execute(db);
    await sql`
      UPDATE receipt SET invoice_id = i.id FROM invoice AS i
      WHERE i.run_id = ${run} AND receipt.document = i.number AND receipt.document <> '' AND receipt.invoice_id IS NULL
    `.execute(db);
  },
};
