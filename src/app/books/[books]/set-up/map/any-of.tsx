'use client';

import { Controller, type Control } from 'react-hook-form';
import Form from 'react-bootstrap/Form';
import Select from 'react-select';
import AsyncSelect from 'react-select/async';
import type { Named } from '@/books/map/map-page';
import type { RuleFields } from './rule-fields';

interface Props {
  readonly label: string;
  readonly name: 'channels' | 'sites' | 'items' | 'payers';
  readonly choices?: readonly Named[];
  /** Looks choices up by what is typed, where there are too many to list. */
  readonly find?: (text: string) => Promise<readonly Named[]>;
  readonly control: Control<RuleFields>;
}

/** A condition that holds for any of what is chosen; nothing chosen is no condition. */
export function AnyOf({ label, name, choices = [], find, control }: Props) {
  const id = `rule-${name}`;
  return (
    <Form.Group>
      <Form.Label htmlFor={id}>{label}</Form.Label>
      <Controller
        control={control}
        name={name}
        render={({ field: { ref, value, onChange, onBlur } }) => {
          const same = {
            ref,
            inputId: id,
            instanceId: id,
            value: [...value],
            onChange: (list: readonly Named[]) => onChange(list),
            onBlur,
            isMulti: true as const,
            isClearable: false,
            unstyled: true,
            className: 'any-of',
            classNamePrefix: 'any-of',
            getOptionLabel: (one: Named) => one.name,
            getOptionValue: (one: Named) => String(one.id),
          };
          return find ? (
            <AsyncSelect
              {...same}
              loadOptions={async (text: string) => [...(await find(text))]}
              placeholder="any"
              noOptionsMessage={({ inputValue }) => (inputValue.length < 2 ? 'type two letters of the name' : 'nobody')}
            />
          ) : (
            <Select {...same} options={[...choices]} placeholder="any" noOptionsMessage={() => 'nothing more'} />
          );
        }}
      />
    </Form.Group>
  );
}
