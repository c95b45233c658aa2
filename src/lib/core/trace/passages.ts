import { micro } from './micro.ts';
import type { Graph } from './graph.ts';
import { presenceIn, type HostAct, type Presence } from './presence.ts';

/** One thing that marks go through: a transformation, a lot to its serial, a part in or out of a unit. */
export interface Passage {
  key: string;
  type: 'made' | 'member' | 'fitted' | 'removed';
  event: number;
  /** Taken apart or taken out: what comes out is what was in it, unmixed. */
  separates: boolean;
  /** Its outputs are made by others of its event. */
  shared: boolean;
  ins: readonly { mark: number; quantity: number }[];
  outs: readonly { mark: number; quantity: number; share: string | null }[];
}

/** What a part in (f) or out (r) of a unit is called; several of one part in one event are one. */
export const fittingKey = (
  way: 'f' | 'r',
  { component, host, event }: { component: number; host: number; event: number }
): string => `${way}${component} ${host} ${event}`;

/** All passages of a graph, each by itself. */
export function passagesOf(graph: Graph): Passage[] {
  const one = 1_000_000;
  return [
    ...graph.transformations.map(({ id, event, inputs, outputs, separates, shared }): Passage => ({
      key: `t${id}`,
      type: 'made',
      event,
      separates: separates ?? false,
      shared: shared ?? false,
      ins: inputs.map((row) => ({ mark: row.mark, quantity: micro(row.quantity) })),
      outs: outputs.map((row) => ({
        mark: row.mark,
        quantity: micro(row.quantity),
        share: row.share
      }))
    })),
    ...graph.members.map(({ lot, serial, event }): Passage => ({
      key: `m${serial}`,
      type: 'member',
      event,
      separates: false,
      shared: false,
      ins: [{ mark: lot, quantity: one }],
      outs: [{ mark: serial, quantity: one, share: null }]
    })),
    ...graph.fittings.map(({ component, host, quantity, event }): Passage => ({
      key: fittingKey('f', { component, host, event }),
      type: 'fitted',
      event,
      separates: false,
      shared: false,
      ins: [{ mark: component, quantity: micro(quantity) }],
      outs: [{ mark: host, quantity: micro(quantity), share: null }]
    })),
    ...(graph.removals ?? []).map(({ component, host, quantity, event }): Passage => ({
      key: fittingKey('r', { component, host, event }),
      type: 'removed',
      event,
      separates: true,
      shared: false,
      ins: [{ mark: host, quantity: micro(quantity) }],
      outs: [{ mark: component, quantity: micro(quantity), share: null }]
    }))
  ];
}

/**
 * How long parts stayed in the hosts that something was taken out of; other hosts keep what they
 * have.
 * @param single whether a mark is one unit
 */
export function presences(
  passages: readonly Passage[],
  single: (mark: number) => boolean
): ReadonlyMap<number, Presence> {
  const hosts = new Set(
    passages.flatMap((one) => (one.separates ? one.ins.map((row) => row.mark) : []))
  );
  const acts = new Map<number, HostAct[]>();
  const note = (host: number, act: HostAct): void => {
    if (!hosts.has(host)) return;
    const of = acts.get(host);
    if (of) of.push(act);
    else acts.set(host, [act]);
  };
  for (const passage of passages) {
    const { key, event } = passage;
    if (passage.type === 'removed') {
      const [host] = passage.ins,
        [part] = passage.outs;
      note(host!.mark, { act: 'out', event, part: part!.mark, quantity: part!.quantity });
    } else if (passage.separates) {
      const out = new Map(passage.outs.map((row) => [row.mark, row.quantity]));
      for (const { mark, quantity } of passage.ins)
        note(mark, { act: 'apart', key, event, taken: quantity, out });
    } else if (passage.type !== 'member') {
      const all = passage.outs.reduce((sum, row) => sum + row.quantity, 0);
      for (const { mark: host, quantity: made } of passage.outs) {
        const fitted = passage.type === 'fitted';
        for (const { mark: part, quantity } of passage.ins)
          if (part !== host)
            note(host, {
              act: 'in',
              key: partKey(key, part, host),
              event,
              part,
              quantity: fitted ? quantity : (quantity * made) / all
            });
        if (!fitted && !passage.shared) note(host, { act: 'made', event, quantity: made });
      }
    }
  }
  return new Map(
    [...acts].map(([host, list]) => [
      host,
      presenceIn(
        list.sort((a, b) => a.event - b.event),
        single(host)
      )
    ])
  );
}

/** What went in by a passage, of one part into one host. */
export const partKey = (passage: string, part: number, host: number): string =>
  `${passage} ${part} ${host}`;
