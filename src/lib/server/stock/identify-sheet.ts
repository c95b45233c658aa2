import { effectivePlan, type MarkingPlan } from '../../core/catalogue/plan.ts';
import type { Actor } from '../kernel/actor.ts';
import { schemeOf } from '../catalogue/numbering.ts';
import { presentPlan } from '../catalogue/present-plan.ts';
import type { Db } from '../kernel/db/client.ts';
import { readDraft } from '../ledger/drafts.ts';
import { today } from '../kernel/clock.ts';
import { listPlaces } from '../catalogue/read-catalogue.ts';
import { readAvailable } from './on-hand.ts';
import { readUnnumbered } from './unnumbered.ts';

/**
 * The sheet on which the unnumbered stock of one product is given numbers: a line for each place
 * and lot it lies at.
 */
export async function loadIdentify(db: Db, product: string, actor: Actor) {
  const stock = (await readUnnumbered(db, { product })).rows;
  if (stock.length === 0) return null;
  const code = stock[0]!.product;
  const [row] = await db<
    {
      plan: MarkingPlan | null;
      shelf: number | null;
      warranty: number | null;
      decimals: number;
      lots: boolean;
      serials: boolean;
    }[]
  >`
    SELECT ${presentPlan(db)} AS plan, p.shelf_life_days AS shelf, p.warranty_months AS warranty,
      p.decimals, ${schemeOf(db, 'lot')} IS NOT NULL AS lots,
      ${schemeOf(db, 'serial')} IS NOT NULL AS serials
    FROM product p
    WHERE p.code = ${code}
  `;
  const plan = effectivePlan(row!.plan, stock[0]!.marking, {
    shelfLifeDays: row!.shelf,
    warrantyMonths: row!.warranty
  });
  // One document for a product and day, so that its numbering reads as one story.
  const number = `ID-${today().slice(2).replaceAll('-', '')}-${code}`;
  const [places, { marks: available, onHand }, draft] = await Promise.all([
    listPlaces(db),
    readAvailable(db, [code], today()),
    readDraft(db, actor.personId, `identify ${number}`)
  ]);
  return {
    places,
    available,
    onHand,
    draft,
    order: {
      number,
      partner: null,
      partnerName: null,
      state: 'part',
      due: null,
      place: null,
      lines: stock.map((one, index) => ({
        line: index + 1,
        product: code,
        name: one.name,
        unit: one.unit,
        decimals: row!.decimals,
        marking: one.marking,
        plan,
        shelfLifeDays: plan.shelfLifeDays,
        gtin: null,
        numbersLots: row!.lots,
        numbersSerials: row!.serials,
        units: [],
        enteredAs: null,
        announced: [],
        quantity: one.quantity,
        done: '0',
        left: one.quantity,
        most: one.quantity,
        place: one.place,
        lot: one.lot
      }))
    }
  };
}
