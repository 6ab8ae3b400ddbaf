'use client';

import Link from 'next/link';
import type { DraftRow } from '@/books/billing/drafts';
import { plural } from '@/core/words';
import { useBooks, useMoney } from '@/ui/frame/books-context';

export function DraftLink({ draft }: { draft: DraftRow }) {
  const { id } = useBooks();
  const money = useMoney();
  return (
    <Link href={`/books/${id}/owed/drafts/${draft.id}`}>
      {draft.payer || 'Nobody yet'}, {plural(draft.lines, 'line')}, {money(draft.gross)}, kept by {draft.actor}
    </Link>
  );
}
