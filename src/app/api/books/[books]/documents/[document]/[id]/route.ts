import type { NextRequest } from 'next/server';
import { creditNoteDocument, invoiceDocument } from '@/books/billing/document';
import { noteHandout, printedCreditNote, printedInvoice } from '@/books/billing/hand-out';
import { creditNoteUbl, invoiceUbl } from '@/books/billing/ubl';
import { clockOf } from '@/books/setup/today';
import type { HandoutTable } from '@/books/store';
import { ACTOR, openBooks } from '../../../../../../server/books';
import { fileResponse } from '../../../../../../server/file-response';
import { origin } from '../../../../../../server/fetching';
import { idParam } from '../../../../../../server/params';

interface Context {
  readonly params: Promise<{ books: string; document: string; id: string }>;
}

/** An invoice or credit note as PDF, or as UBL with `?as=ubl`; that it was handed out is noted with its version. */
export async function GET(request: NextRequest, { params }: Context) {
  const { books: name, document, id: text } = await params;
  const id = idParam(text);
  const books = openBooks(name);
  if (id === null || (document !== 'invoice' && document !== 'credit-note')) return new Response(null, { status: 404 });
  const how: HandoutTable['how'] = request.nextUrl.searchParams.get('as') === 'ubl' ? 'ubl' : 'pdf';
  const file = await books.read(async (db) => {
    if (how === 'pdf') {
      const payAt = (token: string) => `${origin()}/pay/${name}/${token}`;
      return document === 'invoice' ? printedInvoice(db, id, payAt) : printedCreditNote(db, id);
    }
    const of = document === 'invoice' ? await invoiceDocument(db, id) : await creditNoteDocument(db, id);
    if (!of) return null;
    const xml = 'invoice' in of ? creditNoteUbl(of) : invoiceUbl(of);
    return { name: `${document}-${of.number}.xml`, bytes: new TextEncoder().encode(xml) };
  });
  if (!file) return new Response(null, { status: 404 });
  await books.write(
    async (tx) => {
      const settings = await tx.db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
      const at = clockOf(settings, new Date()).toISOString();
      await noteHandout(tx, { document, document_id: id, how, given_to: '', at, actor: ACTOR.name });
    },
    () => true,
  );
  return fileResponse(file.name, how === 'pdf' ? 'application/pdf' : 'application/xml', file.bytes);
}
