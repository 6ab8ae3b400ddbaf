'use client';

import type { ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';

/** Why something that was asked for is not begun. */
export function RefusedInPlace({ children }: { children: string }) {
  return children === '' ? null : (
    <p className="notice refused mt-2" role="alert">
      {children}
    </p>
  );
}

interface AskFormProps {
  readonly send: string;
  readonly busy: boolean;
  readonly refused: string;
  readonly onSend: () => void;
  readonly children: ReactNode;
}

/** What a public page asks somebody, and the one button that sends it off. */
export function AskForm({ send, busy, refused, onSend, children }: AskFormProps) {
  return (
    <Form
      className="ask"
      onSubmit={(event) => {
        event.preventDefault();
        onSend();
      }}
    >
      {children}
      <Button type="submit" variant="primary" size="lg" disabled={busy}>
        {send}
      </Button>
      <RefusedInPlace>{refused}</RefusedInPlace>
    </Form>
  );
}

export interface Who {
  readonly name: string;
  readonly email: string;
}

interface WhoFieldsProps {
  /** What the fields' ids begin with. */
  readonly of: string;
  readonly emailLabel: string;
  readonly who: Who;
  readonly onWho: (who: Who) => void;
}

/** Who somebody is, and where to write to. */
export function WhoFields({ of, emailLabel, who, onWho }: WhoFieldsProps) {
  return (
    <div className="two mb-3">
      <Form.Group controlId={`${of}-name`}>
        <Form.Label>Name</Form.Label>
        <Form.Control
          required
          maxLength={120}
          autoComplete="name"
          value={who.name}
          onChange={(event) => onWho({ ...who, name: event.target.value })}
        />
      </Form.Group>
      <Form.Group controlId={`${of}-email`}>
        <Form.Label>{emailLabel}</Form.Label>
        <Form.Control
          required
          type="email"
          maxLength={200}
          autoComplete="email"
          value={who.email}
          onChange={(event) => onWho({ ...who, email: event.target.value })}
        />
      </Form.Group>
    </div>
  );
}
