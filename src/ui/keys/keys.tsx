'use client';

import {
  createContext,
  useCallback,
  useContext,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type ReactNode,
} from 'react';
import Modal from 'react-bootstrap/Modal';

/** What one key does on the page that is open. */
interface Binding {
  readonly key: string;
  readonly does: string;
  readonly run: () => void;
}

interface Keys {
  add(binding: Binding): () => void;
  showHelp(): void;
}

const Context = createContext<Keys | null>(null);

const NAMES: Readonly<Record<string, string>> = { ArrowDown: '↓', ArrowUp: '↑', ' ': 'Space', Enter: 'Enter' };

function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName))
  );
}

/** A button or link takes Enter and Space itself. */
function takesItself(key: string, target: EventTarget | null): boolean {
  return (
    (key === 'Enter' || key === ' ') &&
    target instanceof HTMLElement &&
    ['BUTTON', 'A', 'SUMMARY'].includes(target.tagName)
  );
}

/** Single keys for the whole page; none acts while something is typed or a dialog is open. "?" lists them. */
export function KeysProvider({ children }: { children: ReactNode }) {
  const bindings = useRef<Binding[]>([]);
  const [help, setHelp] = useState<readonly Binding[] | null>(null);

  const showHelp = useCallback(() => {
    const byKey = new Map(bindings.current.map((binding) => [binding.key, binding]));
    setHelp([...byKey.values()]);
  }, []);

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return;
      if (isTyping(event.target) || takesItself(event.key, event.target)) return;
      if (document.querySelector('.modal.show, .offcanvas.show')) return;
      if (event.key === '?') {
        event.preventDefault();
        showHelp();
        return;
      }
      const binding = bindings.current.findLast((b) => b.key === event.key);
      if (binding) {
        event.preventDefault();
        binding.run();
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [showHelp]);

  const keys = useMemo<Keys>(
    () => ({
      add(binding) {
        bindings.current = [...bindings.current, binding];
        return () => {
          bindings.current = bindings.current.filter((b) => b !== binding);
        };
      },
      showHelp,
    }),
    [showHelp],
  );

  return (
    <Context.Provider value={keys}>
      {children}
      <Modal show={help !== null} onHide={() => setHelp(null)} aria-labelledby="keys-title">
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="keys-title">
            Keys on this page
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <dl className="facts">
            {help?.map((binding) => (
              <div key={binding.key} style={{ display: 'contents' }}>
                <dt>
                  <kbd>{NAMES[binding.key] ?? binding.key}</kbd>
                </dt>
                <dd>{binding.does}</dd>
              </div>
            ))}
            <dt>
              <kbd>Esc</kbd>
            </dt>
            <dd>close what is open</dd>
          </dl>
        </Modal.Body>
      </Modal>
    </Context.Provider>
  );
}

export function useKeys(): Keys {
  const keys = useContext(Context);
  if (keys === null) throw new Error('outside of KeysProvider');
  return keys;
}

/** Binds a key while the component is on the page; a later binding of the same key wins. */
export function useKey(key: string, does: string, run: () => void): void {
  const keys = useKeys();
  const latest = useRef(run);
  // Layout effects: a key pressed right after the page has changed must already act on what is shown.
  useLayoutEffect(() => {
    latest.current = run;
  });
  useLayoutEffect(() => keys.add({ key, does, run: () => latest.current() }), [keys, key, does]);
}
