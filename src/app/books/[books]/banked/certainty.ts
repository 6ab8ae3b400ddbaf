import type { Certainty } from '@/core/matching';
import type { MarkKind } from '@/ui/parts/mark';

/** How each certainty looks and is called. */
export const CERTAINTY_MARKS: Readonly<Record<Certainty, { readonly kind: MarkKind; readonly word: string }>> = {
  proven: { kind: 'matched', word: 'Proven' },
  probable: { kind: 'proposed', word: 'Probable' },
  open: { kind: 'look', word: 'Open' },
  none: { kind: 'new', word: 'Nothing fits' },
  'not-due': { kind: 'aside', word: 'Not due yet' },
  'not-ours': { kind: 'aside', word: 'Not ours' },
};
