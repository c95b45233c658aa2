import { groupBy } from '../../core/group-by.ts';
import { quantity } from '../../core/quantity/quantity.ts';
import { standingByMark } from '../../core/recall/standing.ts';
import type { Tx } from '../kernel/db/client.ts';
import type { CaseRow } from './case-row.ts';
import { readAnswers, readFrozenScope, readNotices } from './read-scope.ts';

interface OpenCustomer {
  /** How much of each mark is not accounted for, in its unit. */
  marks: ReadonlyMap<number, string>;
  /** When they were first written to, and last: instants. */
  firstLetter: string;
  lastLetter: string;
}

/** Customers who were written to and have something open, by code. */
export type StillOpen = ReadonlyMap<string, OpenCustomer>;

/** What customers of a case have not answered for, or only said to have sent. */
export async function openWith(tx: Tx, { id, mock }: CaseRow): Promise<StillOpen> {
  const [scope, answers, notices] = await Promise.all([
    readFrozenScope(tx, id),
    readAnswers(tx, id),
    readNotices(tx, id)
  ]);
  const letters = groupBy(notices, (one) => one.partner);
  const marks = groupBy(standingByMark(scope, answers), (one) => one.partner);
  return new Map(
    [...letters].flatMap(([partner, sent]) => {
      const open = new Map(
        (marks.get(partner) ?? []).flatMap((one) => {
          const left = mock ? one.open : one.open.plus(one.reported);
          return left.gt(quantity('0')) ? [[one.mark, left.toFixed()] as const] : [];
        })
      );
      if (open.size === 0) return [];
      const [firstLetter, lastLetter] = [sent[0]!.sentAt, sent.at(-1)!.sentAt];
      return [[partner, { marks: open, firstLetter, lastLetter }] as const];
    })
  );
}
