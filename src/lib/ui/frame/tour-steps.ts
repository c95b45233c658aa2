/** A stop of the tour: a screen of the demo, what it shows, and something to try there. */
export interface TourStep {
  title: string;
  says: string;
  tries: string;
  /** Where it is. */
  path: string;
}

const step = (path: string, title: string, says: string, tries: string): TourStep => ({
  path,
  title,
  says,
  tries
});

/** Stands for the lot the tour follows. */
const LOT = '{lot}';

/**
 * Through the demo company's day: what comes in, what is made of it, what leaves, and what became
 * of one bad lot.
 */
const STOPS: readonly TourStep[] = [
  step(
    '/',
    'Today',
    'What waits for a number, a decision or a signature, the most urgent first.',
    'Each line leads to where it is done. Everything is also found from the field above: press / there.'
  ),
  step(
    '/receive/PO-2142',
    'What comes in',
    'These cylinders are two days late, and their supplier announced the numbers: they stand at the right.',
    'Take out the simulated scanner (the bars beside ?) and press Element string: the row fills itself, and its number is ticked off. One by one shows the same in big type.'
  ),
  step(
    '/build/WO-858',
    'What goes into what',
    'Four jackets are to be built, named ahead. Each will know its own parts.',
    'Choose Sheet, put the named units on it, fill the parts in order. Nothing is booked until you press Book.'
  ),
  step(
    '/ship/SO-3321',
    'What leaves',
    'This customer asks for more buoyancy than is standard: a wish of theirs binds whoever picks.',
    'Choose and promise … says of every jacket why it may go or must stay.'
  ),
  step(
    `/marks/${LOT}`,
    'One lot',
    'BOB-2511 is a lot of bobbins that quality has held: where it lies, what it went into, everything that was ever booked on it.',
    'You come here from any screen: scan its label, or type BOB-2511 above.'
  ),
  step(
    `/trace/${LOT}?direction=downstream`,
    'Where did it all go?',
    'From the supplier through inflators and jackets to four customers, and the quantities close.',
    'Choose a ribbon: it shows the bookings that prove it. Save as takes it along, with its proof.'
  ),
  step(
    '/recall',
    'Getting it back',
    'A case is opened from a trace. It knows who has the goods, writes to them, and counts what came back.',
    'Open the case: what is answered stands beside what is still out.'
  ),
  step(
    '/on-hand',
    'What lies here',
    'Everything on hand, by product or one by one, as of now or of any day.',
    'Counts, moves, transfers and what it is all worth stand above the list.'
  ),
  step(
    '/service/SJ-0002',
    'What comes back',
    'A ferry’s jacket with a weak firing head: the head was swapped, and its maker is asked to pay.',
    'Figures shows what fails, and leads from any bar to what those units share.'
  ),
  step(
    '/trace/records/shipped',
    'What an auditor asks',
    'A list for each question, with its file and a proof that can be checked without us.',
    'Sign in as noor, the auditor, to see it as she does: everything can be read, nothing changed.'
  ),
  step(
    '/help',
    'Your own goods',
    'Each task stands here, and ? on any screen leads to its own.',
    'An empty Earmark leads through company, places, products and opening stock on its first day.'
  )
];

/** The stops of the tour of ten minutes. @param lot the id of the lot it follows */
export const tourSteps = (lot: number): TourStep[] =>
  STOPS.map((stop) => ({ ...stop, path: stop.path.replace(LOT, String(lot)) }));
