'use client';

import AsyncSelect from 'react-select/async';
import type { Named } from '@/books/map/map-page';
import { useBooks } from '@/ui/frame/books-context';
import { findPayersNow } from '../../actions';

interface Props {
  /** The id of the field, which its label names. */
  readonly id: string;
  readonly value: Named | null;
  readonly onChange: (payer: Named | null) => void;
  readonly autoFocus?: boolean;
  readonly disabled?: boolean;
  /** Whether nobody may be chosen again. */
  readonly clearable?: boolean;
  readonly invalid?: boolean;
  /** A payer who is not offered. */
  readonly without?: number;
}

/** Chooses a payer by what is typed of their name; there are too many to list. */
export function PayerSelect({ id, value, onChange, autoFocus, disabled, clearable, invalid, without }: Props) {
  const books = useBooks();
  return (
    <AsyncSelect<Named>
      inputId={id}
      instanceId={id}
      unstyled
      autoFocus={autoFocus}
      isDisabled={disabled}
      isClearable={clearable}
      className={invalid ? 'any-of is-invalid' : 'any-of'}
      classNamePrefix="any-of"
      placeholder="type a name"
      value={value}
      onChange={onChange}
      getOptionLabel={(one) => one.name}
      getOptionValue={(one) => String(one.id)}
      loadOptions={async (text) =>
        text.trim().length < 2 ? [] : (await findPayersNow(books.id, text)).filter((one) => one.id !== without)
      }
      noOptionsMessage={({ inputValue }) => (inputValue.length < 2 ? 'type two letters of the name' : 'nobody')}
    />
  );
}
