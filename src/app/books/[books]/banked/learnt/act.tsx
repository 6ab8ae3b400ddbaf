'use client';

import Button from 'react-bootstrap/Button';

interface Props {
  /** What it does, with what it does it to. */
  readonly label: string;
  readonly says: string;
  readonly onClick: () => void;
}

/** One thing that can be done with a fact, at the end of its row. */
export function Act({ label, says, onClick }: Props) {
  return (
    <Button variant="link" size="sm" className="p-0 ms-2" aria-label={label} onClick={onClick}>
      {says}
    </Button>
  );
}
