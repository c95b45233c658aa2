import type { PaperWords } from './words-en.ts';

/** In French nought is singular too. */
const some = (count: number, one: string, many: string): string =>
  `${count} ${count < 2 ? one : many}`;

/** What our papers to partners say in French. */
export const french: PaperWords = {
  page: (page, of) => `page ${page} sur ${of}`,
  lines: (count) => some(count, 'ligne', 'lignes'),
  from: 'de',
  to: 'à',
  for: 'pour',
  date: 'date',
  about: 'objet',
  event: 'opération',
  by: (at, who) => `${at}, par ${who}`,
  withoutNumber: 'sans numéro',
  lot: (number) => `lot ${number}`,
  made: (day) => `fabriqué le ${day}`,
  expires: (day) => `expire le ${day}`,
  warrantyUntil: (day) => `garantie jusqu’au ${day}`,
  delivery: {
    title: 'Bon de livraison',
    left: 'expédié',
    carrier: 'n° du transporteur',
    packedIn: 'emballé dans',
    cartons: (count) => some(count, 'carton', 'cartons'),
    onPallets: (cartons, count) => `${cartons} sur ${some(count, 'palette', 'palettes')}`,
    weight: 'poids',
    net: (weight) => `net ${weight}`,
    gross: (weight) => `brut ${weight}`,
    volumetric: 'poids volumétrique',
    byRoad: (weight) => `par route ${weight}`,
    byAir: (weight) => `par avion ${weight}`,
    notKnown: 'pas connu pour chaque produit',
    carton: 'Carton',
    loose: 'En vrac',
    onPallet: (sscc) => `sur palette ${sscc}`,
    takenOver: (who, at) => `pris en charge par ${who}, ${at}`
  },
  receipt: {
    title: 'Confirmation de réception',
    order: 'notre commande',
    asOf: 'état au',
    complete: 'Tout ce qui a été commandé est arrivé.',
    open: (count) => some(count, 'ligne est incomplète.', 'lignes sont incomplètes.'),
    ordered: 'commandé',
    received: 'reçu',
    toCome: 'à venir',
    over: (quantity) => `${quantity} de plus que commandé`,
    due: (day) => `attendu le ${day}`,
    receipts: 'Ce qui est arrivé, et quand',
    yourNote: (number) => `votre bon de livraison ${number}`,
    nothing: 'Rien n’est encore arrivé.'
  },
  notice: {
    recall: 'Avis de rappel',
    recallReminder: 'Rappel de produits : relance',
    drill: 'Exercice de rappel',
    drillReminder: 'Exercice de rappel : relance',
    isDrill:
      'Ceci est un exercice. Vos marchandises ne présentent aucun défaut et vous n’avez rien à faire.',
    weWrote: (at) =>
      `Nous vous avons écrit le ${at}. Ce qui suit reste ouvert : merci de nous dire ce qu’il en est advenu, ou de nous le renvoyer.`,
    wrong: 'Quel est le problème',
    ask: 'Ce que nous vous demandons',
    goods: 'Ce que vous en avez, selon nos registres',
    open: 'Ce qui reste ouvert, selon nos registres',
    answer: 'Votre réponse',
    returned: 'renvoyé chez nous',
    destroyed: 'détruit chez vous',
    gone: 'utilisé ou introuvable, et pourquoi'
  },
  claim: {
    title: 'Réclamation',
    yourNumber: 'votre numéro',
    parts: 'pièces',
    opening:
      'Nous avons reçu ces pièces de vous et les réclamons au titre de votre garantie, sauf mention contraire. Merci de les créditer ou de les remplacer, pièce par pièce.',
    received: (document, day) => `reçu avec ${document}${day === null ? '' : `, ${day}`}`,
    noPaper: 'aucun document connu',
    goodwill: 'à titre commercial',
    foot: (number) => `Réclamation ${number}`
  },
  job: {
    title: 'Prise en charge au service',
    takenBy: 'par',
    unit: 'appareil',
    serial: (product, serial) => `${product}, n° de série ${serial}`,
    opened: 'ouvert',
    promised: 'promis pour le',
    warranty: 'garantie jusqu’au',
    ask: 'référence de suivi',
    wrong: 'Défaut signalé',
    condition: 'État',
    cameWith: 'Accessoires remis',
    handedOver: 'remis par',
    foot: (number) => `Dossier ${number}`
  },
  turn: {
    states: {
      'waiting for unit': 'nous attendons de le recevoir',
      'to look at': 'il nous est parvenu et va être examiné',
      'waiting for customer': 'nous avons besoin de votre accord pour continuer',
      'waiting for parts': 'nous attendons des pièces',
      'in work': 'il est en cours de réparation',
      'to test': 'il est en cours d’essai',
      ready: 'il est prêt',
      'sent back': 'il est en route vers vous',
      ended: 'le dossier est clos'
    },
    says: (unit, job, state) => `Votre ${unit}, notre dossier ${job} : ${state}.`,
    tracking: (number) => `Numéro de suivi : ${number}.`
  },
  certificate: {
    title: 'Certificat d’analyse',
    issued: 'délivré',
    signed: 'approuvé par',
    with: 'avec',
    spec: (whose, version) => `spécification de ${whose}, version ${version}`,
    test: (id) => `essai ${id}`,
    checkedBy: (who) => `vérifié par ${who}`,
    notSigned: 'non validé',
    testedBy: (who) => `par ${who}`,
    notTested: 'non testé',
    verdicts: {
      conforms: 'conforme',
      'does not conform': 'non conforme',
      untested: 'non testé'
    },
    limits: {
      between: (least, most) => `${least} à ${most}`,
      least: (least) => `au moins ${least}`,
      most: (most) => `au plus ${most}`,
      reported: 'indiqué',
      or: (answers) => answers.join(' ou '),
      yes: 'oui',
      no: 'non'
    },
    marks: (count) => some(count, 'lot ou numéro de série', 'lots et numéros de série')
  }
};
