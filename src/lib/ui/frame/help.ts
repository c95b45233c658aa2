/** What a screen is for, in at most three sentences, and the task in docs/using.md that it serves. */
export interface ScreenHelp {
  says: string;
  /** Where its task stands: the heading's words. */
  task: string;
}

const help = (task: string, ...sentences: string[]): ScreenHelp => ({
  task,
  says: sentences.join(' ')
});

/** By route id; a screen below one that is named here is helped by the nearest above it. */
const HELP: Readonly<Record<string, ScreenHelp>> = {
  '/': help(
    'Find anything',
    'What waits for a number, a decision or a signature, the most urgent first.',
    'Each line leads to where it is done.'
  ),
  '/account': help(
    'Your account',
    'Your password, your second factor, your badge, and where you are signed in.',
    'End whatever you do not know.'
  ),
  '/receive': help(
    'Receive',
    'What came in is given its lots and serials, row by row or scan by scan, and booked at once.',
    'Faults stand beside their row and in the margin; nothing typed is lost.'
  ),
  '/build': help(
    'Build',
    'Which parts went into which unit: scan them at the bench, or fill a sheet.',
    'What does not belong is refused in words, and what is missing is said before you book.'
  ),
  '/build/floor': help(
    'The floor',
    'Where every unit is on its way through the stations.',
    'A tag or a scan moves it on; what is held or goes to rework stands out.'
  ),
  '/fit/[id]': help(
    'Build',
    'Parts come out of a unit and others go in, each at its position.',
    'What comes out is usable, held or scrap, as you say.'
  ),
  '/ship': help(
    'Ship',
    'What leaves by which order: pick, pack, then ship what is on the sheet.',
    'Lots that expire first are proposed, and what the customer does not want is said beside them.'
  ),
  '/ship/[number]/choose': help(
    'Choosing which lot goes',
    'Every lot that could go, with why it goes or stays.',
    'Promise what is chosen, and nobody else can take it.'
  ),
  '/ship/[number]/pick': help(
    'Pick',
    'Stop by stop through the store; scan what you take.',
    'What left, expired or was held meanwhile is no stop any more.'
  ),
  '/ship/[number]/pack': help(
    'Pack and dispatch',
    'Scan what goes into the carton in hand, cartons onto pallets, and ship them with their papers.'
  ),
  '/ship/backorders': help('Ship', 'What customers still wait for, and what of it lies here.'),
  '/returns': help(
    'Returns',
    'Scan what came back: it finds its shipment.',
    'Say where it lies and in which state; an exchange sends another in the same act.'
  ),
  '/orders': help(
    'Enter an order',
    'An order by hand or from a file, line by line.',
    'What is wrong stands beside its field.'
  ),
  '/identify': help(
    'Receive',
    'Goods that came without numbers get them here, in the same grid as at the dock.'
  ),
  '/labels': help(
    'Labels',
    'Labels of what was booked, to a printer or as PDF; a reprint is known as one.'
  ),
  '/on-hand': help(
    'What lies here, and what happened to it',
    'What lies where, by product or lot by lot, now or at the end of any day.',
    'Everything sorts, filters stay in the address, and it is had as a file.'
  ),
  '/history': help(
    'What lies here, and what happened to it',
    'Everything that happened to a product or at a place, with what there was after each event.'
  ),
  '/move': help(
    'Move and put away',
    'Scan what goes, then the place it goes to.',
    'A place scanned alone offers all that lies there.'
  ),
  '/put-away': help(
    'Move and put away',
    'What lies at the dock, oldest first, each with a place proposed for it.',
    'Scan numbers and then a place to send just those.'
  ),
  '/transfer': help(
    'Transfer between sites',
    'Goods on the way from one site to another are nowhere on hand until they arrive.',
    'What did not come is found or written off.'
  ),
  '/count': help(
    'Count',
    'A place, a product or a lot is counted while work goes on.',
    'Somebody who did not count approves what was off, and it is booked at once.'
  ),
  '/opening': help(
    'Bring in what lay there before',
    'A row for each lot or serial that was here before Earmark.',
    'Its trace begins there and says so.'
  ),
  '/value': help(
    'What it costs, and what stock is worth',
    'What stock is worth at the end of a day, and what changed it.',
    'Unknown costs are counted, never taken as nothing.'
  ),
  '/repack': help(
    'Repack and take apart',
    'Goods go from some packs into others; what is open is shown to the gram.'
  ),
  '/teardown/[id]': help(
    'Repack and take apart',
    'A unit is taken apart: what comes out is what went in, and the rest is lost or unknown.'
  ),
  '/marks/[id]': help(
    'What lies here, and what happened to it',
    'One lot or serial: where it is, what it is made of, what happened to it.',
    'Hold, amend, test or trace it from here.'
  ),
  '/marks/[id]/as-built': help(
    'As built',
    'What is in this unit, position by position: as built, as it is now, or on any day between.'
  ),
  '/units/[sscc]': help(
    'Pack and dispatch',
    'A carton or pallet: what is in it, where it stands, what it left with.'
  ),
  '/events/[id]': help(
    'Amend',
    'One booking with all it did.',
    'It can be taken back where nothing stands in the way, and proved to anybody.'
  ),
  '/trace': help(
    'Trace',
    'Where something came from and where it all went, by both clocks.',
    'Begin with a number, a document, a place and time, or several units in trouble.'
  ),
  '/trace/common': help(
    'What do units in trouble share?',
    'Give units in trouble, and those that are well: what the first have in common stands at the top.'
  ),
  '/trace/records/[kind]': help(
    'Records to hand out',
    'One list an auditor asks for, with filters that stay in the address.',
    'Take it as a file, with the proof of each event.'
  ),
  '/loose-ends': help(
    'Loose ends',
    'What the ledger cannot close by itself: numbers owed, parts missing, dates that cannot be.',
    'Each leads to where it is mended.'
  ),
  '/outside': help('Trace', 'What other firms told of goods that passed here.'),
  '/partners/[code]': help(
    'What lies here, and what happened to it',
    'All a partner has, all they sent, and what is open with them.'
  ),
  '/recall': help(
    'Recall',
    'A case from suspicion to the last answer: scope, hold, letters, answers, two signatures.',
    'A drill is the same, and touches nothing.'
  ),
  '/quality': help(
    'Quality: specs, tests, certificates',
    'What waits for a decision or a second signature, what is held, and what is due for a test.'
  ),
  '/service': help(
    'Service',
    'Units that come back to be mended: taken in by scan, their parts swapped and claimed, sent back or kept.'
  ),
  '/setup': help(
    'Set up',
    'What Earmark knows of your company.',
    'A new version changes nothing that was booked.'
  ),
  '/setup/files': help(
    'Anything from a file',
    'Products, partners, orders, stock and more from CSV or a workbook.',
    'A report says row by row what would happen, before it does.'
  ),
  '/setup/people': help(
    'Who may do what',
    'Who signs in, with which roles, by which token.',
    'Nobody gives a role to themselves.'
  ),
  '/setup/hooks': help(
    'Other systems',
    'Which other systems are told what is booked, and what became of each message.',
    'The secret of a hook is shown once.'
  ),
  '/setup/plans': help(
    'Sign',
    'How products are marked, as sentences: every underlined word can be changed.',
    'A change is a new version, tried at the right before it is kept.'
  ),
  '/setup/security': help(
    'Who may do what',
    'Who came in, who tried, what was changed and what was taken away.'
  ),
  '/setup/products/[code]/bill': help(
    'Bills of materials',
    'What goes into one of a product.',
    'Open orders keep the version they began with.'
  ),
  '/proof': help(
    'Records to hand out',
    'A proof file is checked here, in your browser: whether its events stand in the ledger as they were sealed.'
  )
};

/** The help of a screen; null where it has none. @param route as SvelteKit names it */
export function helpOf(route: string | null): ScreenHelp | null {
  for (let id = route ?? ''; id !== ''; id = id.slice(0, id.lastIndexOf('/')))
    if (Object.hasOwn(HELP, id)) return HELP[id]!;
  return null;
}

/** The tasks that screens name, to be checked against docs/using.md. */
export const TASKS = Object.values(HELP).map(({ task }) => task);

/** The anchor of a heading: its words in small letters, joined. */
export const anchorOf = (heading: string): string =>
  heading
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/g, '');
