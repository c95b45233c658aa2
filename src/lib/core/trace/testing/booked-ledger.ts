import { sayMicro } from '../packed/amounts.ts';
import type { BookedRows } from '../packed/booked-rows.ts';
import { LedgerPacker } from '../packed/pack-ledger.ts';
import { KIND_OF_CODE, eventKindCode, type PackedLedger } from '../packed/packed-ledger.ts';
import type { Direction, Graph } from '../graph.ts';
import type { TraceMaterial } from '../trace.ts';
import { walk } from '../walk.ts';
import type { SmallLedger } from './random-history.ts';

const unitOfProduct = (product: number): string => (product === 3 ? 'kg' : 'each');
export const unitNumber = (product: number): number => (product === 3 ? 2 : 1);

/** Only what was booked by the first so many events; the rest. */
export function splitRows(rows: BookedRows, events: number): [BookedRows, BookedRows] {
  const part = (keep: (event: number) => boolean): BookedRows => ({
    events: rows.events.filter((row) => keep(row.id)),
    marks: rows.marks.filter((row) => keep(row.birth)),
    transformations: rows.transformations.filter((row) => keep(row.event)),
    fittings: rows.fittings.filter((row) => keep(row.event)),
    removals: rows.removals.filter((row) => keep(row.event)),
    movements: rows.movements.filter((row) => keep(row.event)),
    takenBack: rows.takenBack.filter((row) => keep(row.event))
  });
  return [part((event) => event <= events), part((event) => event > events)];
}

export function pack(rows: BookedRows): PackedLedger {
  const packer = new LedgerPacker();
  for (const row of rows.events)
    packer.bookedEvent(row.id, row.kind, row.undoes, row.at, row.partner, row.person, row.undone);
  for (const row of rows.marks) packer.mark(row.id, row.product, row.kind, row.lot, row.birth);
  for (const tie of rows.transformations) packer.transformation(tie.id, tie.event, tie.shared);
  for (const tie of rows.transformations)
    for (const row of tie.inputs) packer.input(tie.id, row.mark, Number(row.quantity));
  for (const tie of rows.transformations)
    for (const row of tie.outputs)
      packer.output(
        tie.id,
        row.mark,
        Number(row.quantity),
        row.share === null ? null : Number(row.share)
      );
  for (const row of rows.fittings)
    packer.fitting(row.component, row.host, Number(row.quantity), row.event);
  for (const row of rows.removals)
    packer.removal(row.component, row.host, Number(row.quantity), row.event);
  for (const row of rows.movements)
    if (row.place > 0) packer.movement(row.event, row.mark, row.place, Number(row.quantity));
  for (const row of rows.movements) if (row.place === 0) packer.change(row.event, row.mark);
  for (const row of rows.takenBack) packer.takenBack(row.transformation, row.event);
  return packer.finish((bytes) => new ArrayBuffer(bytes));
}

/**
 * What the SQL reads around the roots, put together here from the rows: the material of the judge,
 * core/trace/trace.ts.
 */
export function materialOf(
  { rows }: SmallLedger,
  roots: readonly number[],
  direction: Direction,
  more: { from?: ReadonlySet<number>; clocks?: 'obey' | 'ignore' } = {}
): TraceMaterial {
  const gone = new Set(rows.takenBack.map((row) => row.transformation));
  const live = rows.transformations.filter((tie) => !gone.has(tie.id));
  const lotOf = new Map(rows.marks.filter((row) => row.lot > 0).map((row) => [row.id, row.lot]));
  const text = (micro: bigint) => sayMicro(micro);
  const share = (value: bigint | null) =>
    value === null
      ? null
      : `${value / 1_000_000_000_000n}.${String(value % 1_000_000_000_000n).padStart(12, '0')}`;
  const whole: Graph = {
    transformations: live.map((tie) => ({
      id: tie.id,
      event: tie.event,
      shared: tie.shared,
      inputs: tie.inputs.map((row) => ({ mark: row.mark, quantity: text(row.quantity) })),
      outputs: tie.outputs.map((row) => ({
        mark: row.mark,
        quantity: text(row.quantity),
        share: share(row.share)
      })),
      separates: rows.events[tie.event - 1]!.kind === eventKindCode('teardown')
    })),
    members: rows.marks
      .filter((row) => row.lot > 0)
      .map((row) => ({ lot: row.lot, serial: row.id, event: row.birth })),
    fittings: rows.fittings.map((row) => ({ ...row, quantity: text(row.quantity) })),
    removals: rows.removals.map((row) => ({ ...row, quantity: text(row.quantity) }))
  };
  const reached = new Set(walk(whole, roots, direction).keys());
  const numbered = new Set(
    live.flatMap((tie) =>
      tie.outputs
        .filter((row) => tie.inputs.some((input) => input.mark === lotOf.get(row.mark)))
        .map((row) => row.mark)
    )
  );
  const graph: Graph = {
    transformations: whole.transformations
      .map((tie) => ({
        ...tie,
        inputs: tie.inputs.filter((row) => reached.has(row.mark)),
        outputs: tie.outputs.filter((row) => reached.has(row.mark))
      }))
      .filter((tie) => tie.inputs.length > 0 && tie.outputs.length > 0),
    members: whole.members.filter(
      (row) => reached.has(row.lot) && reached.has(row.serial) && !numbered.has(row.serial)
    ),
    fittings: whole.fittings.filter((row) => reached.has(row.component) && reached.has(row.host)),
    removals: whole.removals!.filter((row) => reached.has(row.component) && reached.has(row.host))
  };
  const movements = rows.movements
    .filter((row) => reached.has(row.mark) && row.place > 0)
    .map((row) => ({
      event: row.event,
      mark: row.mark,
      place: String(row.place),
      quantity: text(row.quantity)
    }));
  const sums = new Map<string, bigint>();
  for (const row of rows.movements)
    if (reached.has(row.mark) && row.place > 0)
      sums.set(
        `${row.mark} ${row.place}`,
        (sums.get(`${row.mark} ${row.place}`) ?? 0n) + row.quantity
      );
  const rootUsed = new Map(
    roots.map((root) => {
      const own = new Set([
        root,
        ...rows.marks
          .filter((row) => row.lot === root && !numbered.has(row.id))
          .map((row) => row.id)
      ]);
      return [
        root,
        text(
          live
            .flatMap((tie) => tie.inputs)
            .filter((row) => own.has(row.mark))
            .reduce((sum, row) => sum + row.quantity, 0n)
        )
      ];
    })
  );
  return {
    direction,
    roots,
    content: true,
    clocks: more.clocks ?? 'obey',
    from: more.from ?? null,
    graph,
    hosts: whole,
    movements,
    rootUsed,
    marks: rows.marks
      .filter((row) => reached.has(row.id))
      .map((row) => ({
        id: row.id,
        kind: row.kind === 2 ? 'serial' : 'lot',
        unit: unitOfProduct(row.product)
      })),
    changes: rows.movements
      .filter((row) => reached.has(row.mark) && row.place === 0)
      .map((row) => ({ event: row.event, mark: row.mark })),
    events: rows.events.map((row) => ({
      id: row.id,
      kind: KIND_OF_CODE[row.kind]!,
      document: `D-${row.id}`,
      partner: row.partner > 0 ? String(row.partner) : null,
      at: String(row.at).padStart(6, '0'),
      by: 'Somebody',
      happened: row.at,
      undone: row.undone || null,
      undoes: row.undoes > 0 ? KIND_OF_CODE[row.undoes]! : null
    })),
    stock: [...sums]
      .filter(([, micro]) => micro > 0n)
      .map(([key, micro]) => ({
        mark: Number(key.split(' ')[0]),
        place: key.split(' ')[1]!,
        quantity: text(micro)
      })),
    rootSerials: new Map(
      roots.map((root) => [root, rows.marks.filter((row) => row.lot === root).map((row) => row.id)])
    )
  };
}
