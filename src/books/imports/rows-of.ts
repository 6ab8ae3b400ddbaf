import { NotAWorkbook, xlsxRows } from '@/adapters/xlsx';
import { refuseFile, type ByteSource } from '@/formats/finding';
import { csvRows, formatOf, jsonRows, peek, type RowSource } from '@/formats/table/rows';
import type { Encoding } from '@/formats/text';

/** The rows of a table in whichever format its bytes are. */
export async function* rowsOf(source: ByteSource, delimiter: string, encoding: Encoding = 'auto'): RowSource {
  const { head, whole } = await peek(source);
  switch (formatOf(head)) {
    case 'xlsx':
      try {
        return yield* xlsxRows(whole);
      } catch (error) {
        if (error instanceof NotAWorkbook) refuseFile('not-a-workbook', null);
        throw error;
      }
    case 'json':
      return yield* jsonRows(whole);
    case 'csv':
      return yield* csvRows(whole, delimiter, encoding);
  }
}
