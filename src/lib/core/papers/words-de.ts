import type { PaperWords } from './words-en.ts';

const some = (count: number, one: string, many: string): string =>
  `${count} ${count === 1 ? one : many}`;

/** What our papers to partners say in German. */
export const german: PaperWords = {
  page: (page, of) => `Seite ${page} von ${of}`,
  lines: (count) => some(count, 'Zeile', 'Zeilen'),
  from: 'von',
  to: 'an',
  for: 'für',
  date: 'Datum',
  about: 'Betreff',
  event: 'Vorgang',
  by: (at, who) => `${at}, durch ${who}`,
  withoutNumber: 'ohne Nummer',
  lot: (number) => `Charge ${number}`,
  made: (day) => `hergestellt am ${day}`,
  expires: (day) => `haltbar bis ${day}`,
  warrantyUntil: (day) => `Gewährleistung bis ${day}`,
  delivery: {
    title: 'Lieferschein',
    left: 'versandt',
    carrier: 'Nummer der Spedition',
    packedIn: 'verpackt in',
    cartons: (count) => some(count, 'Karton', 'Kartons'),
    onPallets: (cartons, count) => `${cartons} auf ${some(count, 'Palette', 'Paletten')}`,
    weight: 'Gewicht',
    net: (weight) => `netto ${weight}`,
    gross: (weight) => `brutto ${weight}`,
    volumetric: 'Volumengewicht',
    byRoad: (weight) => `Straße ${weight}`,
    byAir: (weight) => `Luftfracht ${weight}`,
    notKnown: 'nicht für jedes Produkt bekannt',
    carton: 'Karton',
    loose: 'Lose',
    onPallet: (sscc) => `auf Palette ${sscc}`,
    takenOver: (who, at) => `übernommen von ${who}, ${at}`
  },
  receipt: {
    title: 'Eingangsbestätigung',
    order: 'unsere Bestellung',
    asOf: 'Stand',
    complete: 'Alles Bestellte ist eingegangen.',
    open: (count) => `${some(count, 'Position ist', 'Positionen sind')} noch nicht vollständig.`,
    ordered: 'bestellt',
    received: 'eingegangen',
    toCome: 'noch offen',
    over: (quantity) => `${quantity} mehr als bestellt`,
    due: (day) => `fällig am ${day}`,
    receipts: 'Was wann eingegangen ist',
    yourNote: (number) => `Ihr Lieferschein ${number}`,
    nothing: 'Bisher ist nichts eingegangen.'
  },
  notice: {
    recall: 'Rückruf',
    recallReminder: 'Rückruf: Erinnerung',
    drill: 'Rückrufübung',
    drillReminder: 'Rückrufübung: Erinnerung',
    isDrill: 'Dies ist eine Übung. Ihre Ware ist in Ordnung, und Sie müssen nichts damit tun.',
    weWrote: (at) =>
      `Wir haben Ihnen am ${at} geschrieben. Das unten Aufgeführte ist noch offen: Bitte teilen Sie uns mit, was damit geschehen ist, oder senden Sie es zurück.`,
    wrong: 'Was nicht in Ordnung ist',
    ask: 'Worum wir Sie bitten',
    goods: 'Was Sie nach unseren Unterlagen davon haben',
    open: 'Was nach unseren Unterlagen noch offen ist',
    answer: 'Ihre Antwort',
    returned: 'an uns zurückgesandt',
    destroyed: 'bei Ihnen vernichtet',
    gone: 'verbraucht oder nicht auffindbar, Grund'
  },
  claim: {
    title: 'Reklamation',
    yourNumber: 'Ihre Nummer',
    parts: 'Teile',
    opening:
      'Wir haben diese Teile von Ihnen erhalten und machen dafür Ihre Gewährleistung geltend, soweit nichts anderes vermerkt ist. Bitte schreiben Sie uns jedes Teil gut oder ersetzen Sie es.',
    received: (document, day) => `eingegangen mit ${document}${day === null ? '' : `, ${day}`}`,
    noPaper: 'kein Beleg bekannt',
    goodwill: 'auf Kulanz',
    foot: (number) => `Reklamation ${number}`
  },
  job: {
    title: 'Annahme zum Service',
    takenBy: 'bei',
    unit: 'Gerät',
    serial: (product, serial) => `${product}, Seriennummer ${serial}`,
    opened: 'angenommen',
    promised: 'zugesagt für',
    warranty: 'Gewährleistung bis',
    ask: 'Nachfrage unter',
    wrong: 'Fehler',
    condition: 'Zustand',
    cameWith: 'Mitgeliefert',
    handedOver: 'übergeben von',
    foot: (number) => `Auftrag ${number}`
  },
  turn: {
    states: {
      'waiting for unit': 'wir warten auf das Gerät',
      'to look at': 'es ist bei uns eingetroffen und wird angesehen',
      'waiting for customer': 'wir brauchen Ihre Zustimmung, bevor wir weitermachen',
      'waiting for parts': 'wir warten auf Teile',
      'in work': 'es wird daran gearbeitet',
      'to test': 'es wird geprüft',
      ready: 'es ist fertig',
      'sent back': 'es ist auf dem Weg zurück zu Ihnen',
      ended: 'der Auftrag ist abgeschlossen'
    },
    says: (unit, job, state) => `Zu Ihrem Gerät ${unit}, unser Auftrag ${job}: ${state}.`,
    tracking: (number) => `Nummer zur Nachverfolgung: ${number}.`
  },
  certificate: {
    title: 'Analysenzertifikat',
    issued: 'ausgestellt',
    signed: 'freigegeben von',
    with: 'zu',
    spec: (whose, version) => `Spezifikation von ${whose}, Version ${version}`,
    test: (id) => `Prüfung ${id}`,
    checkedBy: (who) => `freigegeben von ${who}`,
    notSigned: 'nicht freigegeben',
    testedBy: (who) => `durch ${who}`,
    notTested: 'nicht geprüft',
    verdicts: {
      conforms: 'entspricht',
      'does not conform': 'entspricht nicht',
      untested: 'ungeprüft'
    },
    limits: {
      between: (least, most) => `${least} bis ${most}`,
      least: (least) => `mindestens ${least}`,
      most: (most) => `höchstens ${most}`,
      reported: 'wird angegeben',
      or: (answers) => answers.join(' oder '),
      yes: 'ja',
      no: 'nein'
    },
    marks: (count) => some(count, 'Charge oder Seriennummer', 'Chargen und Seriennummern')
  }
};
