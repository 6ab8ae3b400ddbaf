import fc from 'fast-check';
import { SaxesParser } from 'saxes';
import { attributeOf, XmlError, XmlTokenizer } from './tokenizer';

type Event = readonly ['open' | 'close' | 'text', string, string?];

/** Neighbouring texts as one: how a document is cut into pieces of text is not part of what it says. */
function merged(events: readonly Event[]): Event[] {
  const result: Event[] = [];
  for (const event of events) {
    const last = result.at(-1);
    if (event[0] === 'text' && last?.[0] === 'text') result[result.length - 1] = ['text', last[1] + event[1]];
    else if (event[0] !== 'text' || event[1] !== '') result.push(event);
  }
  return result;
}

function tokens(xml: string, size = xml.length + 1, longest = 1 << 20): Event[] {
  const events: Event[] = [];
  const tokenizer = new XmlTokenizer(
    {
      open: (name, attributes) => events.push(['open', name, attributeOf(attributes, 'a') ?? '']),
      close: (name) => events.push(['close', name]),
      text: (text) => events.push(['text', text]),
    },
    longest,
  );
  for (let at = 0; at < xml.length; at += size) tokenizer.write(xml.slice(at, at + size));
  tokenizer.end();
  return merged(events);
}

/** The same document by another parser: the oracle. */
function oracle(xml: string): Event[] | 'refused' {
  const events: Event[] = [];
  let depth = 0;
  const parser = new SaxesParser({ xmlns: false });
  parser.on('error', (error) => {
    throw error;
  });
  parser.on('doctype', () => {
    throw new Error('doctype');
  });
  parser.on('opentag', (tag) => {
    depth++;
    events.push(['open', tag.name, tag.attributes['a'] ?? '']);
  });
  parser.on('closetag', (tag) => {
    depth--;
    events.push(['close', tag.name]);
  });
  const text = (piece: string) => void (depth > 0 && events.push(['text', piece]));
  parser.on('text', text);
  parser.on('cdata', text);
  try {
    parser.write(xml).close();
    return merged(events);
  } catch {
    return 'refused';
  }
}

const attempt = (xml: string, size?: number): Event[] | 'refused' => {
  try {
    return tokens(xml, size);
  } catch (error) {
    if (error instanceof XmlError) return 'refused';
    throw error;
  }
};

const fault = (xml: string): { fault: string; line: number } | null => {
  try {
    tokens(xml);
    return null;
  } catch (error) {
    if (!(error instanceof XmlError)) throw error;
    return { fault: error.fault, line: error.line };
  }
};

test('elements, attributes, text, CDATA, comments, instructions and references', () => {
  const xml =
    '<?xml version="1.0" encoding="UTF-8"?>\r\n<!-- a > b --><r>\r\n<a a="1 > 0"/><?p i?>x &lt;&#233;&#x20AC;&amp;<![CDATA[<b>&amp;]]></r>\n';
  expect(tokens(xml)).toEqual([
    ['open', 'r', ''],
    ['text', '\n'],
    ['open', 'a', '1 > 0'],
    ['close', 'a'],
    ['text', 'x <é€&<b>&amp;'],
    ['close', 'r'],
  ]);
});

test.each([
  ['<a><b></a></b>', 'not-xml', 1],
  ['<a>\n</b></a>', 'not-xml', 2],
  ['<a>\n\n&nbsp;</a>', 'not-xml', 3],
  ['<a>&#0;</a>', 'not-xml', 1],
  ['<a x="1" x="2"/>', 'not-xml', 1],
  ['<a x=1/>', 'not-xml', 1],
  ['<a x="<"/>', 'not-xml', 1],
  ['<a/><b/>', 'not-xml', 1],
  ['<a/>text', 'not-xml', 1],
  ['text<a/>', 'not-xml', 1],
  ['<a>]]></a>', 'not-xml', 1],
  ['<a><!-- -- --></a>', 'not-xml', 1],
  ['<1a/>', 'not-xml', 1],
  ['<a>\u0001</a>', 'not-xml', 1],
  ['\n<?xml version="1.0"?><a/>', 'not-xml', 2],
  ['<!DOCTYPE a [<!ENTITY b "c">]><a>&b;</a>', 'doctype', 1],
  ['<a>\n<b>', 'truncated', 2],
  ['<a>\n<b', 'truncated', 2],
  ['', 'not-xml', 1],
])('%j is refused: %s in line %i', (xml, code, line) => {
  expect(fault(xml)).toEqual({ fault: code, line });
  expect(oracle(xml)).toBe('refused');
});

test('what is never closed is given up at the limit and not held for ever', () => {
  const tokenizer = new XmlTokenizer({ open: () => {}, close: () => {}, text: () => {} }, 100);
  tokenizer.write('<a>');
  expect(() => {
    for (let n = 0; n < 100; n++) tokenizer.write('0123456789');
  }).toThrow(XmlError);
});

const name = fc.constantFrom('a', 'Ntry', 'n:Amt', 'é');
const text = fc.constantFrom(
  '',
  ' ',
  'x',
  '\n',
  '\r\n',
  '&amp;',
  '&#65;',
  '&',
  ']]>',
  '>',
  '"',
  '<![CDATA[<]]>',
  '<!--c-->',
);
const attribute = fc.constantFrom(
  '',
  ' a="1"',
  " a='\"'",
  ' a="1" b="2"',
  ' a="1" a="2"',
  ' a=1',
  ' a="<"',
  ' a = "1"',
);
const { element } = fc.letrec<{ element: string }>((tie) => ({
  element: fc
    .tuple(name, attribute, fc.array(fc.oneof({ depthSize: 'small' }, text, tie('element')), { maxLength: 4 }), name)
    .chain(([open, attributes, inside, other]) =>
      fc
        .constantFrom(open, open, open, open, other)
        .map((close) => `<${open}${attributes}>${inside.join('')}</${close}>`),
    ),
}));

test('it takes, refuses and says the same as another parser', () => {
  let taken = 0;
  fc.assert(
    fc.property(
      element,
      fc.nat(),
      fc.nat(3),
      fc.constantFrom('', '', '<', '>', '/', '"', '&', '?'),
      (xml, at, cut, put) => {
        const place = put === '' ? xml.length : at % (xml.length + 1);
        const document = xml.slice(0, place) + put + xml.slice(place + (put === '' ? 0 : cut));
        const expected = oracle(document);
        if (expected !== 'refused') taken++;
        expect(attempt(document)).toEqual(expected);
      },
    ),
    { numRuns: 3_000 },
  );
  expect(taken).toBeGreaterThan(200);
});

test('the answer does not depend on where the text is cut into pieces', () => {
  fc.assert(
    fc.property(element, fc.integer({ min: 1, max: 9 }), (xml, size) => {
      expect(attempt(xml, size)).toEqual(attempt(xml));
    }),
    { numRuns: 1_000 },
  );
});
