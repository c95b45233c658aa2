import type { PaperWords } from './words-en.ts';

const some = (count: number, one: string, many: string): string =>
  `${count} ${count === 1 ? one : many}`;

/** What our papers to partners say in Spanish. */
export const spanish: PaperWords = {
  page: (page, of) => `página ${page} de ${of}`,
  lines: (count) => some(count, 'línea', 'líneas'),
  from: 'de',
  to: 'a',
  for: 'para',
  date: 'fecha',
  about: 'asunto',
  event: 'operación',
  by: (at, who) => `${at}, por ${who}`,
  withoutNumber: 'sin número',
  lot: (number) => `lote ${number}`,
  made: (day) => `fabricado el ${day}`,
  expires: (day) => `caduca el ${day}`,
  warrantyUntil: (day) => `garantía hasta el ${day}`,
  delivery: {
    title: 'Albarán de entrega',
    left: 'enviado',
    carrier: 'n.º del transportista',
    packedIn: 'embalado en',
    cartons: (count) => some(count, 'caja', 'cajas'),
    onPallets: (cartons, count) => `${cartons} en ${some(count, 'palé', 'palés')}`,
    weight: 'peso',
    net: (weight) => `neto ${weight}`,
    gross: (weight) => `bruto ${weight}`,
    volumetric: 'peso volumétrico',
    byRoad: (weight) => `por carretera ${weight}`,
    byAir: (weight) => `por avión ${weight}`,
    notKnown: 'no conocido para cada producto',
    carton: 'Caja',
    loose: 'Suelto',
    onPallet: (sscc) => `en palé ${sscc}`,
    takenOver: (who, at) => `recogido por ${who}, ${at}`
  },
  receipt: {
    title: 'Confirmación de recepción',
    order: 'nuestro pedido',
    asOf: 'situación a',
    complete: 'Ha llegado todo lo pedido.',
    open: (count) => some(count, 'línea está incompleta.', 'líneas están incompletas.'),
    ordered: 'pedido',
    received: 'recibido',
    toCome: 'pendiente',
    over: (quantity) => `${quantity} más de lo pedido`,
    due: (day) => `previsto el ${day}`,
    receipts: 'Qué ha llegado y cuándo',
    yourNote: (number) => `su albarán ${number}`,
    nothing: 'Todavía no ha llegado nada.'
  },
  notice: {
    recall: 'Aviso de retirada',
    recallReminder: 'Retirada: recordatorio',
    drill: 'Simulacro de retirada',
    drillReminder: 'Simulacro de retirada: recordatorio',
    isDrill:
      'Esto es un simulacro. Su mercancía no tiene ningún defecto y no tiene que hacer nada con ella.',
    weWrote: (at) =>
      `Le escribimos el ${at}. Lo que sigue está aún pendiente: díganos, por favor, qué ha sido de ello o devuélvalo.`,
    wrong: 'Cuál es el problema',
    ask: 'Qué le pedimos',
    goods: 'Lo que usted tiene, según nuestros registros',
    open: 'Lo que sigue pendiente, según nuestros registros',
    answer: 'Su respuesta',
    returned: 'devuelto a nosotros',
    destroyed: 'destruido por ustedes',
    gone: 'usado o no encontrado, y por qué'
  },
  claim: {
    title: 'Reclamación',
    yourNumber: 'su número',
    parts: 'piezas',
    opening:
      'Recibimos de ustedes estas piezas y las reclamamos al amparo de su garantía, salvo que se indique otra cosa. Les rogamos que las abonen o sustituyan, pieza por pieza.',
    received: (document, day) => `recibido con ${document}${day === null ? '' : `, ${day}`}`,
    noPaper: 'sin documento conocido',
    goodwill: 'reclamado como atención comercial',
    foot: (number) => `Reclamación ${number}`
  },
  job: {
    title: 'Recibido para servicio',
    takenBy: 'por',
    unit: 'equipo',
    serial: (product, serial) => `${product}, n.º de serie ${serial}`,
    opened: 'abierto',
    promised: 'prometido para',
    warranty: 'garantía hasta',
    ask: 'consulte con',
    wrong: 'Qué le ocurre',
    condition: 'Estado',
    cameWith: 'Accesorios entregados',
    handedOver: 'entregado por',
    foot: (number) => `Orden ${number}`
  },
  turn: {
    states: {
      'waiting for unit': 'esperamos a que nos llegue',
      'to look at': 'nos ha llegado y lo vamos a examinar',
      'waiting for customer': 'necesitamos su conformidad para continuar',
      'waiting for parts': 'esperamos piezas',
      'in work': 'se está trabajando en él',
      'to test': 'se está probando',
      ready: 'está listo',
      'sent back': 'va de camino hacia usted',
      ended: 'la orden ha terminado'
    },
    says: (unit, job, state) => `Sobre su ${unit}, nuestra orden ${job}: ${state}.`,
    tracking: (number) => `Número de seguimiento: ${number}.`
  },
  certificate: {
    title: 'Certificado de análisis',
    issued: 'emitido',
    signed: 'aprobado por',
    with: 'con',
    spec: (whose, version) => `especificación de ${whose}, versión ${version}`,
    test: (id) => `ensayo ${id}`,
    checkedBy: (who) => `verificado por ${who}`,
    notSigned: 'sin firmar',
    testedBy: (who) => `por ${who}`,
    notTested: 'sin ensayar',
    verdicts: {
      conforms: 'conforme',
      'does not conform': 'no conforme',
      untested: 'sin ensayar'
    },
    limits: {
      between: (least, most) => `${least} a ${most}`,
      least: (least) => `al menos ${least}`,
      most: (most) => `como máximo ${most}`,
      reported: 'se informa',
      or: (answers) => answers.join(' o '),
      yes: 'sí',
      no: 'no'
    },
    marks: (count) => some(count, 'lote o número de serie', 'lotes y números de serie')
  }
};
