'use client';

import Link from 'next/link';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Dropdown from 'react-bootstrap/Dropdown';
import type { InvoiceDetail } from '@/books/invoices/detail';
import { useBooks } from '@/ui/frame/books-context';
import { CreditDialog } from './credit-dialog';
import { SendDialog } from './send-dialog';

/** What can be done with an invoice that is posted. */
export function InvoiceActs({ invoice }: { invoice: InvoiceDetail }) {
  const { id } = useBooks();
  const [doing, setDoing] = useState<'send' | 'credit' | null>(null);
  const address = `/api/books/${id}/documents/invoice/${invoice.id}`;
  const live = invoice.state !== 'void';
  return (
    <section className="d-flex flex-wrap gap-2 align-items-center">
      {live ? (
        <Button variant="plain" size="sm" onClick={() => setDoing('send')}>
          Send…
        </Button>
      ) : null}
      <a className="btn btn-plain btn-sm" href={address} download>
        PDF
      </a>
      <a className="btn btn-plain btn-sm" href={`${address}?as=ubl`} download>
        UBL
      </a>
      {invoice.paid < invoice.gross ? (
        <Link className="btn btn-plain btn-sm" href={`/books/${id}/owed/payers/${invoice.payerId}/settle`}>
          Settle…
        </Link>
      ) : null}
      {live ? (
        <Dropdown>
          <Dropdown.Toggle variant="plain" size="sm">
            Change
          </Dropdown.Toggle>
          <Dropdown.Menu>
            {invoice.own && invoice.credited === 0 ? (
              <Dropdown.Item as={Link} href={`/books/${id}/owed/correct/${invoice.id}`}>
                Correct it…
              </Dropdown.Item>
            ) : null}
            <Dropdown.Item onClick={() => setDoing('credit')}>Take back by credit note…</Dropdown.Item>
          </Dropdown.Menu>
        </Dropdown>
      ) : null}
      {invoice.payLink ? (
        <a className="small ms-auto" href={`/pay/${id}/${invoice.payLink}`} target="_blank" rel="noreferrer">
          Its pay page
        </a>
      ) : null}
      {doing === 'send' ? <SendDialog invoice={invoice} onDone={() => setDoing(null)} /> : null}
      {doing === 'credit' ? <CreditDialog invoice={invoice} onDone={() => setDoing(null)} /> : null}
    </section>
  );
}
