export { CsvTokenizer, type CsvRow } from './tokenizer';
export { readTable, sniffDelimiter, type ColumnPositions } from './table';
export { csvLine } from './write';
