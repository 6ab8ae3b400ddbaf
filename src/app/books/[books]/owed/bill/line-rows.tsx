'use client';

import { useFieldArray, type UseFormReturn } from 'react-hook-form';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { Plus, Trash } from 'react-bootstrap-icons';
import type { BillLists } from '@/books/billing/bill-lists';
import { sum, writeAmount } from '@/core/money';
import { billLines } from '@/core/receivables';
import { useMoney } from '@/ui/frame/books-context';
import { EMPTY_LINE, readBill, type BillFaults, type BillFields, type LineFields } from './bill-fields';

interface Props {
  readonly form: UseFormReturn<BillFields>;
  readonly lists: BillLists;
  readonly faults: BillFaults;
}

type Cell = Exclude<keyof LineFields, 'dimensions'>;

/** The lines of a bill, with what each comes to and the totals below; Enter in the last one begins another. */
export function LineRows({ form, lists, faults }: Props) {
  const money = useMoney();
  const { fields, append, remove } = useFieldArray({ control: form.control, name: 'lines' });
  const values = form.watch();
  const { bill } = readBill(values, lists);
  const rates = new Map(lists.taxCodes.map(({ id, rate }) => [id, rate]));
  const billed = billLines(bill.lines.map((line) => ({ ...line, rate: rates.get(line.taxCode) ?? 0 })));
  const shown = values.lines.map((line) => (line.item || line.description || line.price ? 'line' : 'blank'));
  const nth = (index: number) => shown.slice(0, index).filter((one) => one === 'line').length;
  const choose = (index: number, id: string) => {
    const item = lists.items.find((one) => String(one.id) === id);
    if (!item) return;
    const set = (field: Cell, value: string) => form.setValue(`lines.${index}.${field}`, value);
    const line = form.getValues(`lines.${index}`);
    set('taxCode', String(item.taxCode));
    if (line.price === '' && item.price !== null) set('price', writeAmount(item.price, lists.currency));
    if (line.description === '') set('description', item.description);
    form.setValue(
      `lines.${index}.dimensions`,
      Object.fromEntries(item.dimensions.map(([dimension, value]) => [dimension, String(value)])),
    );
  };
  const field = (index: number, name: Cell, label: string) => ({
    ...form.register(
      `lines.${index}.${name}`,
      name === 'item' ? { onChange: (event: { target: { value: string } }) => choose(index, event.target.value) } : {},
    ),
    'aria-label': `${label} of line ${index + 1}`,
    isInvalid: faults[`lines.${index}.${name}`] !== undefined,
    title: faults[`lines.${index}.${name}`],
    size: 'sm' as const,
  });
  const net = sum(billed.map((line) => line.net));
  const tax = sum(billed.map((line) => line.tax));
  return (
    <div className="surface">
      <table className="list bill-lines" aria-label="Lines">
        <thead>
          <tr>
            <th scope="col">Item</th>
            <th scope="col">For</th>
            <th scope="col" className="num">
              Quantity
            </th>
            <th scope="col" className="num">
              Net price
            </th>
            <th scope="col" className="num">
              Off %
            </th>
            <th scope="col">Tax</th>
            {lists.dimensions.map(({ id, name }) => (
              <th scope="col" key={id}>
                {name}
              </th>
            ))}
            <th scope="col" className="num">
              Net
            </th>
            <th scope="col">
              <span className="visually-hidden">Acts</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {fields.map((row, index) => (
            <tr
              key={row.id}
              onKeyDown={(event) => {
                if (event.key !== 'Enter' || event.ctrlKey || (event.target as HTMLElement).tagName === 'BUTTON')
                  return;
                event.preventDefault();
                if (index === fields.length - 1) append(EMPTY_LINE, { focusName: `lines.${index + 1}.item` });
              }}
            >
              <td style={{ width: 150 }}>
                <Form.Select {...field(index, 'item', 'Item')}>
                  <option value="">choose</option>
                  {lists.items.map(({ id, name }) => (
                    <option key={id} value={id}>
                      {name}
                    </option>
                  ))}
                </Form.Select>
              </td>
              <td>
                <Form.Control {...field(index, 'description', 'For')} placeholder="as the item is named" />
              </td>
              <td style={{ width: 76 }}>
                <Form.Control {...field(index, 'quantity', 'Quantity')} className="num" inputMode="decimal" />
              </td>
              <td style={{ width: 96 }}>
                <Form.Control {...field(index, 'price', 'Net price')} className="num" inputMode="decimal" />
              </td>
              <td style={{ width: 64 }}>
                <Form.Control {...field(index, 'discount', 'Off')} className="num" inputMode="decimal" />
              </td>
              <td style={{ width: 92 }}>
                <Form.Select {...field(index, 'taxCode', 'Tax')}>
                  <option value="">choose</option>
                  {lists.taxCodes.map(({ id, code }) => (
                    <option key={id} value={id}>
                      {code}
                    </option>
                  ))}
                </Form.Select>
              </td>
              {lists.dimensions.map(({ id, name, values: choices }) => (
                <td key={id} style={{ width: 120 }}>
                  <Form.Select
                    size="sm"
                    aria-label={`${name} of line ${index + 1}`}
                    {...form.register(`lines.${index}.dimensions.${id}`)}
                  >
                    <option value="">none</option>
                    {choices.map((value) => (
                      <option key={value.id} value={value.id}>
                        {value.name}
                      </option>
                    ))}
                  </Form.Select>
                </td>
              ))}
              <td className="num pt-2" style={{ width: 90 }}>
                {shown[index] === 'line' ? money(billed[nth(index)]!.net) : ''}
              </td>
              <td className="pt-1">
                <Button
                  variant="link"
                  size="sm"
                  className="p-0"
                  aria-label={`Take line ${index + 1} out`}
                  onClick={() => remove(index)}
                  disabled={fields.length === 1}
                >
                  <Trash aria-hidden="true" />
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr className="totals">
            <td colSpan={4 + lists.dimensions.length}>
              <Button variant="link" size="sm" className="p-0" onClick={() => append(EMPTY_LINE)}>
                <Plus aria-hidden="true" /> Another line
              </Button>
            </td>
            <td colSpan={4} className="num">
              Net {money(net)} · tax {money(tax)} · <span aria-label="Total">total {money(sum([net, tax]))}</span>
            </td>
          </tr>
        </tfoot>
      </table>
    </div>
  );
}
