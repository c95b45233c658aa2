import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { partnerTable } from '../catalogue/import-partners.ts';
import { importTable } from '../kernel/imports/import-table.ts';
import { putPartner, readPartner } from '../catalogue/partners-places.ts';
import { putOrder } from '../orders/write-order.ts';
import { receive } from '../receiving/kinds.ts';
import { confirmationPdf } from '../receiving/papers/confirmation.ts';
import { readConfirmation } from '../receiving/read-confirmation.ts';
import { readNotice, sendNotices } from '../recall/notices.ts';
import { noticePdf } from '../recall/papers/notice.ts';
import { putWords } from '../recall/case-words.ts';
import { readRecall } from '../recall/read-recall.ts';
import { decideScope, openRecall } from '../recall/write-recall.ts';
import { ship } from '../shipping/kinds.ts';
import { deliveryNotePdf } from '../shipping/papers/delivery-note.ts';
import { readDeliveryNote } from '../shipping/read-delivery-note.ts';
import { reverse } from '../ledger/kinds.ts';
import { caught } from '../testing/caught.ts';
import { paperText } from '../testing/paper-text.ts';
import { makeWorld, newKey, type World } from '../testing/world.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
  const customer = { supplier: false, customer: true };
  await putPartner(world.sql, 'HAFEN', {
    ...{ ...customer, name: 'Hafenamt', address: 'Kai 3\nNordstadt', language: 'de' }
  });
  await putPartner(world.sql, 'PORT', { ...customer, name: 'Port Sud', language: 'fr' });
  await putPartner(world.sql, 'TELAR', {
    ...{ name: 'Telar', supplier: true, customer: false, language: 'es' }
  });
});
afterAll(() => world.end());

describe('the language a partner reads', () => {
  it('is English until somebody says another, and stays where a change does not say it', async () => {
    expect(await readPartner(world.sql, 'CUS')).toMatchObject({ language: 'en' });
    await putPartner(world.sql, 'HAFEN', {
      ...{ name: 'Hafenamt Nord', supplier: false, customer: true }
    });
    expect(await readPartner(world.sql, 'HAFEN')).toMatchObject({ language: 'de' });
  });
});

describe('a delivery note', () => {
  it('is in the language of its customer, with their decimals and days', async () => {
    await world.receive('KG', [{ lot: 'K-1', expires: '2047-03-12' }], '12.5');
    const shipped = await world.book(ship, {
      ...{ document: 'SO-DE', customer: 'HAFEN' },
      lines: [{ product: 'KG', marks: [{ lot: 'K-1', quantity: '2.25' }] }]
    });
    const note = (await readDeliveryNote(world.sql, shipped.event.id))!;
    const said = await paperText(await deliveryNotePdf(note));
    for (const words of ['Lieferschein', 'SO-DE', 'Kai 3', '2,25 kg', 'haltbar bis 12. März 2047'])
      expect(said).toContain(words);
    expect(said).toContain('Seite 1 von 1');
    expect(said).not.toMatch(/Delivery note|expires|page 1/);
    const french = await paperText(await deliveryNotePdf({ ...note, language: 'fr' }));
    expect(french).toContain('expire le 12 mars 2047');
  });
});

describe('a confirmation of receipt', () => {
  it('has ordered beside received, line by line, and what each delivery brought', async () => {
    await world.owner`UPDATE product SET over_receipt_percent = 20 WHERE code = 'KG'`;
    await putOrder(world.sql, world.actor, 'purchase', 'PO-ES', {
      ...{ partner: 'TELAR', due: '2027-01-20', note: '' },
      lines: [
        { product: 'LOT', quantity: '10' },
        { product: 'KG', quantity: '4' }
      ]
    });
    const came = (product: string, lot: string, quantity: string, reference: string) =>
      world.book(receive, {
        ...{ document: 'PO-ES', supplier: 'TELAR', reference },
        lines: [{ product, place: 'DOCK', quantity, marks: [{ lot }] }]
      });
    await came('LOT', 'T-1', '6', 'ALB 77');
    await came('KG', 'T-2', '4.5', 'ALB 78');
    const mistaken = await came('LOT', 'T-WRONG', '3', 'ALB 79');
    await world.book(reverse, {
      document: 'X',
      event: mistaken.event.id,
      reason: 'wrong'
    } as never);
    const said = (await readConfirmation(world.sql, 'po-es'))!;
    expect(
      said.lines.map(({ product, ordered, received, toCome, over }) => [
        ...[product, ordered, received, toCome, over]
      ])
    ).toEqual([
      ['LOT', '10', '6', '4', null],
      ['KG', '4', '4.5', '0', '0.5']
    ]);
    expect(said.receipts.map(({ product, lot, quantity }) => [product, lot, quantity])).toEqual([
      ['LOT', 'T-1', '6'],
      ['KG', 'T-2', '4.5']
    ]);
    const paper = await paperText(await confirmationPdf(said));
    for (const words of ['Confirmación de recepción', 'su albarán ALB 77', 'lote T-1', '4,5 kg'])
      expect(paper).toContain(words);
    expect(paper).toContain('1 línea está incompleta.');
    expect(paper).toContain('0,5 kg más de lo pedido');
    expect(paper).not.toContain('T-WRONG');
  });

  it('is of a purchase order with a supplier, and asked in another language is in that', async () => {
    expect(await readConfirmation(world.sql, 'NO-SUCH')).toBeNull();
    const english = (await readConfirmation(world.sql, 'PO-ES', 'en'))!;
    expect(await paperText(await confirmationPdf(english))).toContain('Confirmation of receipt');
  });
});

describe('the letters of a recall', () => {
  let number: string;
  const letterTo = async (partner: string) => {
    const { sent } = await sendNotices(world.sql, world.actor, number, [partner], newKey());
    expect(sent).toBe(1);
    const page = (await readRecall(world.sql, number, new Date()))!;
    const { id } = page.notices.findLast((one) => one.partner === partner)!;
    const { content, sentAt } = (await readNotice(world.sql, number, id))!;
    return paperText(await noticePdf(content, sentAt));
  };
  beforeAll(async () => {
    await world.receive('LOT', [{ lot: 'SWELLS' }], '10');
    for (const customer of ['HAFEN', 'PORT', 'CUS'])
      await world.book(ship, {
        ...{ document: `SO-${customer}`, customer },
        lines: [{ product: 'LOT', marks: [{ lot: 'SWELLS', quantity: '2' }] }]
      });
    const [mark] = await world.sql<{ id: number }[]>`SELECT id FROM mark WHERE number = 'SWELLS'`;
    ({ number } = await openRecall(world.sql, world.actor, newKey(), {
      ...{ title: 'Bad lot', hazard: 'It swells.', request: 'Send it back.', mock: false },
      ...{ marks: [mark!.id], why: '' }
    }));
    await decideScope(world.sql, world.actor, number);
    const german = { title: 'Schlechte Charge', hazard: 'Es quillt auf.', request: '' };
    await putWords(world.sql, world.actor, number, { language: 'de', ...german });
    await putWords(world.sql, world.actor, number, { language: 'de', ...german });
  });

  it('say the case as it was said in the language of their customer', async () => {
    const german = await letterTo('HAFEN');
    for (const words of ['Rückruf', 'Schlechte Charge', 'Es quillt auf.', 'Ihre Antwort'])
      expect(german).toContain(words);
    // What is not asked in their language is not asked in another.
    expect(german).not.toMatch(/swells|Send it back|Your answer/);
    const english = await letterTo('CUS');
    for (const words of ['Recall notice', 'It swells.', 'Send it back.'])
      expect(english).toContain(words);
  });

  it('say in English what nobody said in theirs', async () => {
    const french = await letterTo('PORT');
    for (const words of ['Avis de rappel', 'It swells.', 'Votre réponse'])
      expect(french).toContain(words);
  });

  it('stay as they were sent, whatever is said later', async () => {
    const before = (await readRecall(world.sql, number, new Date()))!;
    await putWords(world.sql, world.actor, number, {
      ...{ language: 'de', title: 'Andere Worte', hazard: 'Es platzt.', request: '' }
    });
    const { id } = before.notices.find((one) => one.partner === 'HAFEN')!;
    const { content } = (await readNotice(world.sql, number, id))!;
    expect(content.hazard).toBe('Es quillt auf.');
    const after = (await readRecall(world.sql, number, new Date()))!;
    expect(after.words).toMatchObject([{ language: 'de', hazard: 'Es platzt.' }]);
    // Sent twice it was logged once.
    expect(after.log.filter((one) => one.says.includes('in German'))).toHaveLength(2);
  });

  it('are said in no other words once the case is closed', async () => {
    const by = world.actor.personId;
    await world.owner`
      UPDATE recall_case
      SET closed_at = clock_timestamp(), closed_by = ${by}, closing_reason = 'given up'
      WHERE number = ${number}
    `;
    const words = { language: 'fr', title: 'Lot', hazard: 'Il gonfle.', request: '' } as const;
    expect(await caught(putWords(world.sql, world.actor, number, words))).toMatchObject([
      { code: 'order.closed' }
    ]);
  });
});

describe('a table of partners', () => {
  it('names languages by code or name, and says which there are', async () => {
    const file = (language: string) =>
      importTable(
        world.sql,
        new TextEncoder().encode(`code,name,customer,language\nNEU,Neu,yes,${language}`),
        'write',
        partnerTable
      );
    await file('German');
    expect(await readPartner(world.sql, 'NEU')).toMatchObject({ language: 'de' });
    await file('');
    expect(await readPartner(world.sql, 'NEU')).toMatchObject({ language: 'de' });
    const { rows } = await file('Latin');
    expect(rows[0]).toMatchObject({ verdict: 'fault' });
    expect(JSON.stringify(rows[0])).toMatch(/en.*de.*fr.*es/);
  });
});
