import { readDigitalLinkPath } from '../../core/service/digital-link-path.ts';
import { sayState } from '../../core/service/state-words.ts';
import type { JobState } from '../../core/service/job-state.ts';
import { warrantyText } from '../../core/service/warranty.ts';
import { numberKey } from '../../core/numbers/number.ts';
import { company } from '../catalogue/company.ts';
import { today } from '../kernel/clock.ts';
import type { Db } from '../kernel/db/client.ts';
import { readRecalled } from '../ledger/read-recalled.ts';
import { readSettings } from './settings.ts';
import { readTracking } from './tracking.ts';
import { readWarranties } from './warranties.ts';

/** What anybody with its tracking number may see of a job, and no more. */
export interface TrackedJob {
  from: string;
  number: string;
  product: string;
  state: JobState;
  says: string;
  since: string;
  promised: string | null;
}

/** A job by its tracking number; null where there is none, or the page is off. */
export async function readTrackedJob(db: Db, typed: string): Promise<TrackedJob | null> {
  const tracking = readTracking(typed);
  const { tracking: isOn } = await readSettings(db);
  if (!isOn || tracking === null) return null;
  const [row] = await db<Omit<TrackedJob, 'says' | 'from'>[]>`
    SELECT j.number, p.name AS product, j.state, j.promised_on AS promised,
      (
        SELECT max(s.at)::date
        FROM service_step s
        WHERE s.job_id = j.id AND s.kind = 'state'
      ) AS since
    FROM service_job j
      JOIN product p ON p.id = j.product_id
    WHERE j.tracking = ${tracking}
  `;
  if (!row) return null;
  return { ...row, says: sayState(row.state), from: (await company(db)).name };
}

/** What the company lets anybody who holds a unit see of it. */
export interface PublicUnit {
  from: string;
  product: string;
  serial: string;
  made: string | null;
  /** As `warrantyText`; null where it is not shown. */
  warranty: string | null;
  /** Null where it is not shown. */
  recalled: boolean | null;
  howToSend: string;
}

/**
 * A unit by the path of its Digital Link; null where it is none of ours, or the page is off.
 * @param gtin as it stands in the path; @param rest what follows: `21/A1`, `10/L/21/A1`
 */
export async function readPublicUnit(
  db: Db,
  gtin: string,
  rest: string
): Promise<PublicUnit | null> {
  const named = readDigitalLinkPath(gtin, rest);
  const settings = await readSettings(db);
  if (!settings.unitPages || named === null) return null;
  const [row] = await db<{ mark: number; product: string; serial: string; made: string | null }[]>`
    SELECT m.id AS mark, p.name AS product, m.number AS serial, m.made_on AS made
    FROM product p
      JOIN mark m ON m.product_id = p.id
        AND m.kind = 'serial'
        AND m.number_key = ${numberKey(named.serial)}
    WHERE p.gtin = ${named.gtin}
  `;
  if (!row) return null;
  const shows = new Set<string>(settings.shows);
  const [warranties, recalled, own] = await Promise.all([
    shows.has('warranty') ? readWarranties(db, [row.mark], today()) : null,
    shows.has('recall') ? readRecalled(db, [row.mark]) : null,
    company(db)
  ]);
  const ours = warranties?.get(row.mark)?.ours;
  return {
    from: own.name,
    product: row.product,
    serial: row.serial,
    made: shows.has('made') ? row.made : null,
    warranty: ours ? warrantyText(ours) : null,
    recalled: recalled && recalled.has(row.mark),
    howToSend: settings.howToSend
  };
}
