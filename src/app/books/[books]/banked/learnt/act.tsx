'use client';

import Button from 'react-bootstrap/Button';

interface Props {
  readonly says: string;
  /** What it is done to, for whoever does not see the row. */
  readonly of: string;
  readonly onClick: () => void;
}

/** One thing that can be done with a fact, at the end of its row. */
export function Act({ says, of, onClick }: Props) {
  return (
    <Button variant="link" size="sm" className="p-0 ms-2" aria-label={`${says}: ${of}`} onClick={onClick}>
      {says}
    </Button>
  );
}
