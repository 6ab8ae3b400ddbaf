/** A state as a shape with a word: never a colour alone. */
const SHAPES = {
  new: '○',
  partly: '◐',
  posted: '●',
  matched: '◆',
  proposed: '◇',
  look: '△',
  aside: '✕',
} as const;

export type MarkKind = keyof typeof SHAPES;

export function Mark({ kind, children }: { kind: MarkKind; children: string }) {
  return (
    <span className={`mark ${kind}`}>
      <span className="shape" aria-hidden="true">
        {SHAPES[kind]}
      </span>
      {children}
    </span>
  );
}
