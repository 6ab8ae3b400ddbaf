export * from './record';
export { readStatementCsv } from './statement-csv';
export { readCamt053 } from './camt053';
