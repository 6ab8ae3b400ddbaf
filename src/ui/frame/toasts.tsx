'use client';

import { createContext, useCallback, useContext, useMemo, useState, type ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import Toast from 'react-bootstrap/Toast';
import ToastContainer from 'react-bootstrap/ToastContainer';
import { useKey } from '../keys/keys';

/** A change that stands, as the server told it. */
export interface ChangeTold {
  readonly audit: number;
  readonly summary: string;
  readonly undoLabel: string | null;
}

interface Told {
  readonly id: number;
  readonly text: string;
  readonly next: string;
  readonly refused: boolean;
  readonly change: ChangeTold | null;
}

interface Toasts {
  changed(change: ChangeTold): void;
  refused(what: string, next: string): void;
  /** Tells of something that happened and is not to be undone. */
  told(text: string): void;
}

const Context = createContext<Toasts | null>(null);

export type UndoAnswer =
  | { readonly ok: true; readonly change: ChangeTold | null }
  | { readonly ok: false; readonly what: string; readonly next: string };

let counter = 0;

/** Every change answers here, with a way to undo it; "u" undoes the last. */
export function ToastsProvider({
  undo,
  children,
}: {
  undo: (audit: number) => Promise<UndoAnswer>;
  children: ReactNode;
}) {
  const [told, setTold] = useState<readonly Told[]>([]);
  const [last, setLast] = useState<ChangeTold | null>(null);

  const tell = useCallback((toast: Omit<Told, 'id'>) => {
    setTold((before) => [...before.slice(-1), { ...toast, id: ++counter }]);
  }, []);
  const toasts = useMemo<Toasts>(
    () => ({
      changed(change) {
        setLast(change.undoLabel === null ? null : change);
        tell({ text: change.summary, next: '', refused: false, change });
      },
      refused(what, next) {
        tell({ text: what, next, refused: true, change: null });
      },
      told(text) {
        tell({ text, next: '', refused: false, change: null });
      },
    }),
    [tell],
  );

  const undoChange = async (change: ChangeTold) => {
    setLast(null);
    setTold((before) => before.filter((t) => t.change?.audit !== change.audit));
    const answer = await undo(change.audit);
    if (!answer.ok) toasts.refused(answer.what, answer.next);
    else if (answer.change) toasts.changed(answer.change);
  };
  useKey('u', 'undo the last change', () => {
    if (last) void undoChange(last);
  });

  return (
    <Context.Provider value={toasts}>
      {children}
      <ToastContainer
        position="bottom-end"
        className="p-3"
        style={{ position: 'fixed', zIndex: 1100 }}
        aria-live="polite"
      >
        {told.map((toast) => (
          <Toast
            key={toast.id}
            onClose={() => setTold((before) => before.filter((t) => t.id !== toast.id))}
            delay={toast.refused ? 20_000 : 10_000}
            autohide
          >
            <Toast.Body className={`d-flex gap-3 align-items-start${toast.refused ? ' notice refused mb-0' : ''}`}>
              <div className="flex-grow-1">
                {toast.text} {toast.next}
              </div>
              {toast.change?.undoLabel ? (
                <Button size="sm" variant="plain" onClick={() => void undoChange(toast.change!)}>
                  Undo{toast.change?.audit === last?.audit ? <span className="key">u</span> : null}
                </Button>
              ) : null}
              <button
                type="button"
                className="btn-close"
                aria-label="Close this message"
                onClick={() => setTold((before) => before.filter((t) => t.id !== toast.id))}
              />
            </Toast.Body>
          </Toast>
        ))}
      </ToastContainer>
    </Context.Provider>
  );
}

export function useToasts(): Toasts {
  const toasts = useContext(Context);
  if (toasts === null) throw new Error('outside of ToastsProvider');
  return toasts;
}
