'use client';

import type { ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { SaidOfFile } from '@/books/receipts/sniff-file';
import type { DateOrder, DecimalMark } from '@/formats/table/loose';
import type { Delimiter } from '@/formats/table/header';
import type { Encoding } from '@/formats/text';
import { Notice } from './notice';
import { Choice, DECIMALS, DELIMITER_WORDS, ENCODING_WORDS, ORDERS } from './reading-parts';

/** How values are written, in every kind of table. */
interface Written {
  readonly delimiter: Delimiter;
  readonly encoding: Encoding;
  readonly decimal: DecimalMark;
  readonly dateOrder: DateOrder;
  readonly currency: string;
}

interface WrittenProps {
  readonly profile: Written;
  /** Somebody has said in which order dates are written, or the file leaves no doubt. */
  readonly orderSaid: boolean;
  readonly onOrder: () => void;
  readonly onChange: (more: Partial<Written>) => void;
  readonly onLookAgain: (said: SaidOfFile) => void;
}

/** What is said of how a table is written: what parts its columns, its letters, its figures, its dates. */
export function WrittenChoices({ profile, orderSaid, onOrder, onChange, onLookAgain }: WrittenProps) {
  const { delimiter, encoding } = profile;
  return (
    <>
      <Choice
        id="reading-order"
        label="Dates are written"
        value={orderSaid ? profile.dateOrder : ''}
        choices={ORDERS}
        onChoice={(dateOrder) => {
          onOrder();
          onChange({ dateOrder });
        }}
      />
      <Choice
        id="reading-decimal"
        label="Decimal mark"
        value={profile.decimal}
        choices={DECIMALS}
        onChoice={(decimal) => onChange({ decimal })}
      />
      <Choice
        id="reading-delimiter"
        label="Columns are parted by"
        value={delimiter}
        choices={DELIMITER_WORDS}
        onChoice={(said) => onLookAgain({ delimiter: said, encoding })}
      />
      <Choice
        id="reading-encoding"
        label="Letters are coded"
        value={encoding}
        choices={ENCODING_WORDS}
        onChoice={(said) => onLookAgain({ encoding: said, delimiter })}
      />
    </>
  );
}

/** The currency of a table that has no column of it. */
export function CurrencyOfAll({
  of,
  value,
  onChange,
}: {
  readonly of: string;
  readonly value: string;
  readonly onChange: (currency: string) => void;
}) {
  return (
    <Form.Group controlId="reading-currency">
      <Form.Label className="small soft mb-1">Currency of all {of}</Form.Label>
      <Form.Control
        size="sm"
        style={{ width: '5rem' }}
        maxLength={3}
        value={value}
        onChange={(event) => onChange(event.target.value.toUpperCase())}
      />
    </Form.Group>
  );
}

interface FrameProps {
  readonly file: string;
  /** What the file has, in words. */
  readonly has: string;
  /** What must be said before it can be read. */
  readonly missing: readonly string[];
  readonly busy: boolean;
  readonly onRead: () => void;
  readonly onLeave: () => void;
  readonly children: ReactNode;
}

/** How a file is read: what it has, what is missing, and the two ways on. */
export function ReadingFrame({ file, has, missing, busy, onRead, onLeave, children }: FrameProps) {
  return (
    <section className="panel mb-3" aria-label="How the file is read">
      <header>
        <div>
          <div className="name">{file}</div>
          <div className="small soft">{has}</div>
        </div>
      </header>
      {missing.length > 0 ? (
        <section>
          <Notice kind="waits">Say {missing.join(', and ')}.</Notice>
        </section>
      ) : null}
      {children}
      <div className="acts">
        <Button variant="primary" disabled={busy || missing.length > 0} onClick={onRead}>
          See what it holds
        </Button>
        <Button variant="plain" onClick={onLeave}>
          Leave it
        </Button>
      </div>
    </section>
  );
}
