'use client';

import { usePathname, useRouter, useSearchParams } from 'next/navigation';
import Form from 'react-bootstrap/Form';
import type { PlainDate } from '@/core/calendar';

/** The day at whose end the balances stand. */
export function AsOf({ date }: { date: PlainDate }) {
  const router = useRouter();
  const pathname = usePathname();
  const search = useSearchParams();
  return (
    <label className="d-inline-flex gap-2 align-items-center">
      at the end of
      <Form.Control
        key={date}
        size="sm"
        type="date"
        style={{ width: 'auto' }}
        defaultValue={date}
        onChange={(event) => {
          if (!event.target.value) return;
          const next = new URLSearchParams(search);
          next.set('date', event.target.value);
          router.replace(`${pathname}?${next}`, { scroll: false });
        }}
      />
    </label>
  );
}
