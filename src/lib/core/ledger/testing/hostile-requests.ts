import fc from 'fast-check';

/** Codes of the small world hostile requests are about. */
export interface SmallWorld {
  products: readonly string[];
  /** Products with a name of the kind they are marked by. */
  things: readonly { product: string; lot?: string; serial?: string }[];
  places: readonly string[];
  /** Lots and serials: few, so that the same one is named again and again. */
  lots: readonly string[];
  serials: readonly string[];
  /** Ids of events that may be asked to be taken back, and SSCCs of cartons. */
  events: readonly number[];
  units: readonly string[];
}

/** A request as a careless or ill-meaning caller would send it, with the path it is sent to. */
export interface HostileRequest {
  path: string;
  request: Record<string, unknown>;
}

/** Quantities: most of them usual, some that are none, too fine or too large. */
const USUAL = ['1', '1', '1', '2', '0.5'];
const ODD = ['0', '-1', '0.123456789', '0.000001', '1e3', 'NaN', '', '1000000000000000'];
const quantity = fc.oneof(
  { arbitrary: fc.constantFrom(...USUAL), weight: 12 },
  { arbitrary: fc.constantFrom(...ODD), weight: 1 }
);
const maybe = <T>(arbitrary: fc.Arbitrary<T>): fc.Arbitrary<T | undefined> =>
  fc.option(arbitrary, { nil: undefined, freq: 2 });
const few = <T>(arbitrary: fc.Arbitrary<T>, least = 1): fc.Arbitrary<T[]> =>
  fc.array(arbitrary, { minLength: least, maxLength: 2 });

/** Requests of every kind of booking about a small world, sense and nonsense mixed. */
export function hostileRequests(world: SmallWorld): fc.Arbitrary<HostileRequest> {
  const product = fc.constantFrom(...world.products);
  const place = fc.constantFrom(...world.places);
  const lot = fc.constantFrom(...world.lots);
  const serial = fc.constantFrom(...world.serials);
  const counted = { quantity: maybe(quantity) };
  const anyhow = fc.oneof(
    fc.record({ lot }),
    fc.record({ serial }),
    fc.record({ lot, serial }),
    fc.constant({})
  );
  /** A product with a name of the kind it is marked by, or now and then of another. */
  const thing = fc.oneof(
    { arbitrary: fc.constantFrom(...world.things), weight: 12 },
    { arbitrary: fc.tuple(fc.record({ product }), anyhow).map(merged), weight: 1 }
  );
  /** Rows of one product, each with a name. */
  const rowsOf = (count: number) =>
    fc.constantFrom(...world.things).chain(({ product: of, ...name }) =>
      fc.record({
        product: fc.constant(of),
        marks: fc.array(
          fc
            .tuple(
              fc.oneof(
                { arbitrary: fc.constant(name), weight: 6 },
                { arbitrary: anyhow, weight: 1 }
              ),
              fc.record(counted)
            )
            .map(merged),
          { minLength: 1, maxLength: count }
        )
      })
    );
  const of = <T extends object>(more: { [Key in keyof T]: fc.Arbitrary<T[Key]> }) =>
    fc.tuple(thing, fc.record(more)).map((parts) => merged(parts));
  const document = fc.oneof(
    { arbitrary: fc.constantFrom('D-1', 'D-2'), weight: 20 },
    { arbitrary: fc.constant(''), weight: 1 }
  );
  const reason = fc.constant('tried');
  const sent = (path: string, body: { [key: string]: fc.Arbitrary<unknown> }) =>
    fc.record({ document, ...body }).map((request) => ({ path, request: clean(request) }));
  const line = of(counted);
  const buildLine = of({ ...counted, place: maybe(place), draw: maybe(fc.constant(true)) });
  return fc.oneof(
    sent('receipts', {
      supplier: fc.constant('SUP'),
      lines: few(fc.tuple(rowsOf(2), fc.record({ place, quantity })).map(merged))
    }),
    sent('openings', {
      lines: few(
        fc.tuple(rowsOf(2), fc.record({ place, quantity, unitCost: maybe(quantity) })).map(merged)
      )
    }),
    sent('builds', {
      place,
      groups: few(fc.record({ outputs: few(buildLine), inputs: few(buildLine, 0) })),
      shared: maybe(few(buildLine))
    }),
    sent('repacks', {
      place,
      groups: few(
        fc.record({
          sources: few(of({ ...counted, place: maybe(place) })),
          results: few(of({ ...counted, place: maybe(place) }))
        })
      )
    }),
    sent('teardowns', {
      place,
      units: few(
        fc
          .tuple(line, few(of({ ...counted, lost: maybe(fc.boolean()) })))
          .map(([unit, parts]) => ({ ...unit, parts }))
      )
    }),
    sent('fittings', {
      place,
      reason,
      units: few(
        fc
          .tuple(line, few(of(counted), 0), few(of({ ...counted, to: place }), 0))
          .map(([unit, fit, remove]) => ({ ...unit, fit, remove }))
      )
    }),
    sent('reversals', {
      event: fc.constantFrom(...world.events),
      reason,
      units: maybe(few(of({})))
    }),
    sent('shipments', {
      customer: fc.constant('CUS'),
      lines: few(
        fc
          .tuple(rowsOf(2), fc.record({ place: maybe(place), quantity: maybe(quantity) }))
          .map(merged),
        0
      ),
      units: maybe(few(fc.constantFrom(...world.units)))
    }),
    sent('packings', {
      kind: fc.constantFrom('pack', 'unpack'),
      unit: maybe(fc.constantFrom(...world.units)),
      make: maybe(fc.constantFrom('carton', 'pallet')),
      lines: few(line, 0),
      units: fc.array(fc.constantFrom(...world.units), { maxLength: 2 })
    }),
    sent('returns', { customer: maybe(fc.constant('CUS')), place, lines: few(line) }),
    sent('corrections', {
      kind: fc.constantFrom('gain', 'loss', 'scrap'),
      reason,
      lines: few(of({ ...counted, place }))
    }),
    sent('moves', {
      kind: fc.constantFrom('put away', 'move'),
      lines: few(of({ ...counted, from: place, to: place }))
    }),
    sent('identifications', {
      lines: few(fc.tuple(rowsOf(3), fc.record({ place, lot: maybe(lot) })).map(merged))
    }),
    sent('amendments', {
      reason,
      lines: few(
        of({
          to: fc
            .record({
              number: maybe(fc.oneof(lot, serial)),
              expires: maybe(fc.constantFrom('2030-01-01', null, 'soon')),
              supplierNumber: maybe(fc.constantFrom('T-1', null))
            })
            .map(clean)
        })
      )
    }),
    sent('quality-decisions', {
      kind: fc.constantFrom('hold', 'release', 'reject'),
      reason,
      marks: few(of({}))
    })
  );
}

const merged = (parts: readonly object[]): Record<string, unknown> =>
  clean(Object.assign({}, ...parts) as Record<string, unknown>);

/** Without what is not given, as JSON has it. */
const clean = (value: object): Record<string, unknown> =>
  Object.fromEntries(Object.entries(value).filter(([, one]) => one !== undefined));
