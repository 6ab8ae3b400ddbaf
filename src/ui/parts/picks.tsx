'use client';

import { createContext, useContext, useMemo, useState, type ReactNode } from 'react';

/** Rows picked out of a list, for doing something with just them. */
interface Picks {
  readonly picked: ReadonlySet<number>;
  toggle(id: number): void;
  clear(): void;
}

const Context = createContext<Picks | null>(null);

/** Keeps what is picked while the list is on the page; wraps the list and the buttons that act on it. */
export function PicksProvider({ children }: { children: ReactNode }) {
  const [picked, setPicked] = useState<ReadonlySet<number>>(new Set());
  const picks = useMemo<Picks>(
    () => ({
      picked,
      toggle: (id) =>
        setPicked((before) => {
          const next = new Set(before);
          if (!next.delete(id)) next.add(id);
          return next;
        }),
      clear: () => setPicked(new Set()),
    }),
    [picked],
  );
  return <Context.Provider value={picks}>{children}</Context.Provider>;
}

/** What is picked; null where a list has nothing to pick for. */
export function usePicks(): Picks | null {
  return useContext(Context);
}
