'use client';

import { useRouter } from 'next/navigation';
import { useState, type ComponentProps } from 'react';
import Button from 'react-bootstrap/Button';
import { useBooks } from '@/ui/frame/books-context';
import { PayerForm } from '../payer-form';

type Props = Omit<ComponentProps<typeof PayerForm>, 'onDone'>;

/** The button that opens a payer's form; a new payer is shown once it is there. */
export function EditPayer(props: Props) {
  const { id } = useBooks();
  const router = useRouter();
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button variant={props.payer === null ? 'primary' : 'plain'} onClick={() => setOpen(true)}>
        {props.payer === null ? 'New payer' : 'Change…'}
      </Button>
      {open ? (
        <PayerForm
          {...props}
          onDone={(payer) => {
            setOpen(false);
            if (payer !== null && props.payer === null) router.push(`/books/${id}/owed/payers/${payer}`);
          }}
        />
      ) : null}
    </>
  );
}
