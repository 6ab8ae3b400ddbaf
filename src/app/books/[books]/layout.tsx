import type { Metadata } from 'next';
import type { ReactNode } from 'react';
import { railOf } from '@/books/today/rail';
import { worklist } from '@/books/today/worklist';
import { BooksProvider } from '@/ui/frame/books-context';
import { Rail, TopBar } from '@/ui/frame/rail';
import { ToastsProvider } from '@/ui/frame/toasts';
import { KeysProvider } from '@/ui/keys/keys';
import { TrailProvider } from '@/ui/parts/trail';
import { listBooks, openBooks } from '../../server/books';
import { undoNow } from './actions';

interface Props {
  readonly params: Promise<{ books: string }>;
  readonly children: ReactNode;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const { books } = await params;
  const row = await openBooks(books).reader.selectFrom('books').select('name').executeTakeFirst();
  return { title: { absolute: `${row?.name ?? books} · Nest Egg` } };
}

export default async function BooksLayout({ params, children }: Props) {
  const { books: id } = await params;
  const { rail, things } = await openBooks(id).read(async (db) => {
    const figures = await railOf(db, new Date());
    return { rail: figures, things: (await worklist(db, figures)).length };
  });
  const undo = async (audit: number) => {
    'use server';
    return undoNow(id, audit);
  };
  return (
    <BooksProvider frame={{ id, currency: rail.currency, today: rail.today }}>
      <KeysProvider>
        <ToastsProvider undo={undo}>
          <TrailProvider>
            <TopBar name={rail.name} others={listBooks().length > 1} />
            <Rail rail={rail} things={things} />
            {children}
          </TrailProvider>
        </ToastsProvider>
      </KeysProvider>
    </BooksProvider>
  );
}
