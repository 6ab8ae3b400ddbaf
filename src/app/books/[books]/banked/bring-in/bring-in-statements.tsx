'use client';

import type { StatementProfile } from '@/formats/statements/profile';
import type { SniffedStatement } from '@/formats/statements/sniff';
import { BringInRead } from '@/ui/parts/bring-in-read';
import { StatementReading } from './statement-reading';

interface Props {
  readonly accounts: readonly { readonly iban: string; readonly name: string }[];
}

/** Brings a bank’s statements in; of a table it is shown first how it is read. */
export function BringInStatements({ accounts }: Props) {
  return (
    <BringInRead<SniffedStatement, StatementProfile>
      what="statement"
      noun={{ one: 'statement line', many: 'statement lines' }}
      takes="camt.053, camt.054, MT940, OFX, BAI2, or any table as CSV or XLSX: what it is shows in the file itself. Files may overlap, in different formats too; only what is new comes in."
      accept=".xml,.csv,.tsv,.txt,.xlsx,.sta,.940,.mt940,.ofx,.bai,.bai2,text/xml,application/xml,text/csv"
      look={{ kind: 'look-at-statement' }}
      task={(statements) => (statements ? { statements } : {})}
      form={(props) => <StatementReading {...props} accounts={accounts} />}
    />
  );
}
