import fc from 'fast-check';

/** The part of JSON Schema that our OpenAPI document uses. */
export interface Schema {
  $ref?: string;
  type?: string;
  enum?: unknown[];
  const?: unknown;
  anyOf?: Schema[];
  oneOf?: Schema[];
  allOf?: Schema[];
  properties?: Record<string, Schema>;
  required?: string[];
  additionalProperties?: boolean | Schema;
  items?: Schema;
  maxItems?: number;
  minimum?: number;
  maximum?: number;
  format?: string;
}

/** Codes and numbers of the demo, so that some of it goes further than its form. */
const KNOWN = [
  ...['HEAD-A', 'TN150', 'BOB-S', 'BOB-2511', 'TN-004342', 'GANNET', 'PELLWORM', 'PILOTS'],
  ...['PO-2142', 'PO-2144', 'WO-858', 'SO-3322', 'QW-A1', 'DN-BENCH', 'RC-0001', 'SJ-0002', 'COLD']
];
/** What programs stumble over: control characters, halves of letters, names of objects, long ones. */
const HOSTILE = [
  ...['', ' ', '\u0000', 'a\u0000b', '\ud800', '\u202Etxt', '\uFFFD', '👩‍🔧', 'ﬀ', 'İ', '\u001d01'],
  ...['__proto__', 'constructor', 'toString', '../../etc/passwd', '%', '%00', '%ZZ', '?a=b#c'],
  ...[
    `'; DROP TABLE event; --`,
    '{{7*7}}',
    '<script>',
    '=1+1',
    '-1',
    '1e400',
    'NaN',
    '0.000000001'
  ],
  ...['99999999999999999999', '0000-01-01', '2026-02-30', '+275760-09-13', '2026-11-30T99:00:00Z'],
  ...['s1', 's999999999999999', '9007199254740993', 'x'.repeat(300), 'ß'.repeat(5000)]
];
const text = fc.oneof(
  { arbitrary: fc.constantFrom(...KNOWN), weight: 5 },
  { arbitrary: fc.constantFrom(...HOSTILE), weight: 4 },
  { arbitrary: fc.string({ unit: 'binary', maxLength: 30 }), weight: 1 },
  { arbitrary: fc.constantFrom('2026-11-01', '2026-11-01T08:00:00Z', '1', '2.5', '10'), weight: 4 }
);
const number = fc.oneof(
  fc.constantFrom(0, 1, 2, -1, 0.1, 1e308, 2 ** 31, 2 ** 53, -(2 ** 63)),
  fc.integer({ min: -5, max: 2000 })
);
/** Something of another kind than asked. */
const odd = fc.oneof(
  fc.constantFrom<unknown>(null, true, [], {}, [[]], { length: 3 }),
  text,
  number,
  fc.array(fc.constantFrom<unknown>(null, 1, 'a', {}), { maxLength: 3 })
);
const DEPTH = 6;

/** Values that a schema may take, and now and then one it may not. */
export function valuesOf(
  schema: Schema | undefined,
  named: Record<string, Schema>,
  depth = 0
): fc.Arbitrary<unknown> {
  if (!schema || depth > DEPTH) return odd;
  const good = goodOf(schema, named, depth);
  return fc.oneof({ arbitrary: good, weight: 14 }, { arbitrary: odd, weight: 1 });
}

function goodOf(
  schema: Schema,
  named: Record<string, Schema>,
  depth: number
): fc.Arbitrary<unknown> {
  const of = (one: Schema | undefined) => valuesOf(one, named, depth + 1);
  if (schema.$ref) return of(named[schema.$ref.split('/').at(-1)!]);
  if (schema.enum) return fc.constantFrom(...schema.enum);
  if ('const' in schema) return fc.constant(schema.const);
  const some = schema.anyOf ?? schema.oneOf;
  if (some) return fc.oneof(...some.map(of));
  if (schema.allOf) return of(schema.allOf[0]);
  if (schema.type === 'array')
    return fc.array(of(schema.items), { maxLength: Math.min(3, schema.maxItems ?? 3) });
  if (schema.type === 'object') return objectOf(schema, of);
  if (schema.type === 'boolean') return fc.boolean();
  if (schema.type === 'number' || schema.type === 'integer') return number;
  if (schema.type === 'null') return fc.constant(null);
  return text;
}

function objectOf(
  { properties = {}, required = [], additionalProperties }: Schema,
  of: (one: Schema | undefined) => fc.Arbitrary<unknown>
): fc.Arbitrary<unknown> {
  const known = Object.entries(properties).map(([name, one]) => [name, of(one)] as const);
  const fields = fc.record(Object.fromEntries(known), {
    requiredKeys: required.filter((name) => name in properties)
  });
  if (typeof additionalProperties !== 'object') return fields;
  return fc.dictionary(text, of(additionalProperties), { maxKeys: 3 });
}
