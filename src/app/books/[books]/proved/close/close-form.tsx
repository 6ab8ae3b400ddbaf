'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import { useRouter } from 'next/navigation';
import { useForm } from 'react-hook-form';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { z } from 'zod';
import { parsePlainDate, type PlainDate } from '@/core/calendar';
import { useBooks } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { closeNow } from '../../actions';

const fields = z.object({
  date: z.string().refine((text) => parsePlainDate(text) !== null, 'Choose a day, like 2026-10-31.'),
});

/** Sets the closing date on, or back. */
export function CloseForm({ closedThrough, suggested }: { closedThrough: PlainDate | null; suggested: PlainDate }) {
  const { id } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const { register, handleSubmit, setError, formState } = useForm({
    resolver: zodResolver(fields),
    defaultValues: { date: closedThrough !== null && closedThrough >= suggested ? '' : suggested },
  });
  const send = async (date: string | null, reopen: boolean) => {
    const answer = await closeNow(id, { date, reopen });
    if (!answer.ok) return setError('date', { message: `${answer.what} ${answer.next}` });
    if (answer.change) toasts.changed(answer.change);
    router.refresh();
  };
  return (
    <Form noValidate onSubmit={(event) => void handleSubmit(({ date }) => send(date, false))(event)}>
      <Form.Group controlId="close-date" className="mb-3">
        <Form.Label>Close through</Form.Label>
        <Form.Control
          type="date"
          style={{ width: 'auto' }}
          isInvalid={Boolean(formState.errors.date)}
          {...register('date')}
        />
        <Form.Control.Feedback type="invalid">{formState.errors.date?.message}</Form.Control.Feedback>
      </Form.Group>
      <div className="d-flex gap-2 flex-wrap">
        <Button type="submit" variant="primary">
          Close
        </Button>
        <Button variant="plain" onClick={() => void handleSubmit(({ date }) => send(date, true))()}>
          Set the closing date back
        </Button>
        {closedThrough ? (
          <Button variant="plain" onClick={() => void send(null, true)}>
            Open all days again
          </Button>
        ) : null}
      </div>
    </Form>
  );
}
