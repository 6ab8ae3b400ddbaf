import ExcelJS from 'exceljs';
import { Readable } from 'node:stream';

/** A row of a sheet as texts: numbers as decimals, days as YYYY-MM-DD with their time where they have one. */
interface SheetRow {
  readonly line: number;
  readonly fields: string[];
}

const ROWS = 500;

/** Bytes that are no workbook, or one that cannot be read. */
export class NotAWorkbook extends Error {}

function cellText(value: ExcelJS.CellValue): string {
  if (value === null || value === undefined) return '';
  if (value instanceof Date) {
    const text = value.toISOString();
    return text.endsWith('T00:00:00.000Z') ? text.slice(0, 10) : text.slice(0, 19).replace('T', ' ');
  }
  if (typeof value !== 'object') return String(value);
  if ('richText' in value) return value.richText.map((part) => part.text).join('');
  if ('result' in value) return cellText(value.result as ExcelJS.CellValue);
  if ('formula' in value || 'sharedFormula' in value) return '';
  if ('text' in value) return String(value.text);
  return '';
}

/** The rows of a workbook's first sheet, as they are unpacked; a formula is what it last came to. */
export async function* xlsxRows(
  source: AsyncIterable<Uint8Array>,
): AsyncGenerator<{ readonly rows: SheetRow[]; readonly bytes: number }> {
  let bytes = 0;
  async function* counted() {
    for await (const chunk of source) {
      bytes += chunk.length;
      yield chunk;
    }
  }
  const reader = new ExcelJS.stream.xlsx.WorkbookReader(Readable.from(counted()), {
    worksheets: 'emit',
    sharedStrings: 'cache',
    styles: 'cache',
    hyperlinks: 'ignore',
    entries: 'emit',
  });
  try {
    for await (const sheet of reader) {
      let rows: SheetRow[] = [];
      for await (const row of sheet) {
        const fields: string[] = [];
        for (let column = 1; column <= row.cellCount; column++) fields.push(cellText(row.getCell(column).value));
        rows.push({ line: row.number, fields });
        if (rows.length < ROWS) continue;
        yield { rows, bytes };
        rows = [];
      }
      yield { rows, bytes };
      return;
    }
  } catch (error) {
    throw new NotAWorkbook('the workbook cannot be read', { cause: error });
  }
}
