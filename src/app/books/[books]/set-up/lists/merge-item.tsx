'use client';

import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import type { ListRow } from './list-view';

interface Props {
  readonly item: ListRow;
  readonly others: readonly ListRow[];
  readonly onHide: () => void;
  readonly onMerge: (into: number) => Promise<void>;
}

/** Chooses the item that is used in the place of another from now on. */
export function MergeItem({ item, others, onHide, onMerge }: Props) {
  const [into, setInto] = useState('');
  const other = others.find(({ id }) => String(id) === into);
  return (
    <Modal show onHide={onHide} aria-labelledby="merge-item-title">
      <Form
        onSubmit={(event) => {
          event.preventDefault();
          if (other) void onMerge(other.id);
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="merge-item-title">
            Merge {String(item.code)}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <Form.Group controlId="merge-into" className="mb-2">
            <Form.Label>Use in its place from now on</Form.Label>
            <Form.Select size="sm" required autoFocus value={into} onChange={(event) => setInto(event.target.value)}>
              <option value="">choose an item</option>
              {others.map(({ id, code, name }) => (
                <option key={id} value={id}>
                  {String(code)} {String(name)}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
          <p className="soft mb-0">
            Drafts, plans, files to come and what is not posted yet land where{' '}
            {other ? String(other.code) : 'that item'} lands. What was posted under {String(item.code)} stays under it.
          </p>
        </Modal.Body>
        <Modal.Footer>
          <Button variant="plain" onClick={onHide}>
            Leave it
          </Button>
          <Button type="submit" variant="primary" disabled={!other}>
            Merge
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
