import { z } from 'zod';
import { PaperAsked } from './paper-asked.ts';
import * as catalogue from '../catalogue/schemas.ts';
import * as exchange from '../exchange/schemas.ts';
import * as records from '../exchange/records/asked.ts';
import * as frame from '../frame/schemas.ts';
import * as ledger from '../ledger/schemas.ts';
import * as making from '../making/schemas.ts';
import * as orders from '../orders/schemas.ts';
import * as people from '../people/schemas.ts';
import * as quality from '../quality/schemas.ts';
import * as recall from '../recall/schemas.ts';
import * as receiving from '../receiving/schemas.ts';
import * as service from '../service/schemas.ts';
import * as seal from '../seal/schemas.ts';
import * as shipping from '../shipping/schemas.ts';
import * as stock from '../stock/schemas.ts';
import * as desk from '../stock/desk/asked.ts';
import * as transfers from '../stock/transfers/schemas.ts';
import * as counts from '../stock/counts/schemas.ts';
import * as trace from '../trace/schemas.ts';
import { IMPORTS } from '../imports.ts';
import { BOOKING_KINDS } from '../kinds.ts';
import { ACCOUNT_OPERATIONS } from './account-operations.ts';
import { HOOK_OPERATIONS } from './hook-operations.ts';
import { anything, nothing, type Operation } from './operation.ts';
import * as problem from './problem-schema.ts';

const schemas = {
  ...catalogue,
  ...counts,
  ...transfers,
  ...desk,
  ...exchange,
  ...records,
  ...frame,
  ...ledger,
  ...making,
  ...orders,
  ...people,
  ...quality,
  ...recall,
  ...receiving,
  ...seal,
  ...service,
  ...shipping,
  ...stock,
  ...trace,
  ...problem
};

/** Every operation of the contract, with the very schemas the routes check by. */
export const OPERATIONS: readonly Operation[] = [
  ...BOOKING_KINDS.map(({ path, summary, schema }): Operation => ({
    method: 'post',
    path: `/${path}`,
    summary,
    body: schema,
    answer: schemas.Booked,
    booking: true
  })),
  {
    method: 'put',
    path: '/products/{code}',
    summary: 'Set a product up, or change it',
    body: schemas.Product,
    answer: anything
  },
  { method: 'get', path: '/products/{code}', summary: 'A product', answer: anything },
  {
    method: 'put',
    path: '/partners/{code}',
    summary: 'Set a supplier or customer up, or change it',
    body: schemas.Partner,
    answer: anything
  },
  { method: 'get', path: '/partners/{code}', summary: 'A partner', answer: anything },
  {
    method: 'put',
    path: '/places/{code}',
    summary: 'Set a place up, or change it',
    body: schemas.Place,
    answer: anything
  },
  { method: 'get', path: '/places/{code}', summary: 'A place', answer: anything },
  {
    method: 'put',
    path: '/orders/{kind}/{number}',
    summary:
      'Enter an order (kind: purchase, work, sales), or change one with nothing booked against it',
    body: schemas.Order,
    answer: anything
  },
  {
    method: 'get',
    path: '/orders/{kind}/{number}',
    summary: 'An order with its progress',
    answer: anything
  },
  {
    method: 'patch',
    path: '/orders/{kind}/{number}',
    summary: 'Close an order, or open it again',
    body: schemas.OrderChange,
    answer: anything
  },
  {
    method: 'put',
    path: '/numbering-schemes/{code}',
    summary: 'Set a numbering scheme up, or change it; its counter goes on',
    body: schemas.NumberingScheme,
    answer: anything
  },
  {
    method: 'put',
    path: '/orders/{kind}/{number}/announced',
    summary: 'Numbers the supplier of a purchase order announces ahead, in place of those before',
    body: schemas.Announcement,
    answer: anything
  },
  {
    method: 'post',
    path: '/labels',
    summary: 'Print labels, as PDF or on the label printer; a reprint is recorded as one',
    body: schemas.LabelRequest,
    answer: anything
  },
  { method: 'get', path: '/labels', summary: 'What was printed lately', answer: anything },
  {
    method: 'get',
    path: '/labels/{id}',
    summary: 'The labels of a job as they were printed, as PDF',
    answer: anything
  },
  {
    method: 'get',
    path: '/events/{id}/goods-received-note',
    summary: 'The goods received note of a receipt, as PDF',
    answer: anything
  },
  {
    method: 'post',
    path: '/imports/{kind}',
    summary: `Records from a CSV or XLSX file, the body (kind: ${Object.keys(IMPORTS).join(', ')}): a report row by row, and with mode=write the writing; opening stock is booked, an event for each day`,
    query: schemas.ImportQuery,
    answer: anything
  },
  {
    method: 'get',
    path: '/imports/{kind}',
    summary: 'An empty table of that kind with its headings, to be filled',
    query: schemas.TemplateQuery,
    answer: anything
  },
  {
    method: 'get',
    path: '/exports/{kind}',
    summary:
      'A table as CSV or XLSX (kind: products, bills, where product names one bill; record-sheet and ledger for a period or a lot or serial, the ledger with as=epcis as EPCIS 2.0)',
    query: schemas.ExportQuery,
    answer: anything
  },
  {
    method: 'get',
    path: '/marking-plans',
    summary: 'All marking plans in their present version',
    answer: anything
  },
  {
    method: 'put',
    path: '/marking-plans/{code}',
    summary: 'Set a marking plan up, or give it a new version',
    body: schemas.MarkingPlan,
    answer: anything
  },
  {
    method: 'get',
    path: '/products/{code}/identity',
    summary: 'What marking a product differently would mean for what is on hand',
    query: schemas.IdentityQuery,
    answer: anything
  },
  {
    method: 'get',
    path: '/products/{code}/bill',
    summary: 'The bill of a product: the version in force, or another',
    query: schemas.BillQuery,
    answer: anything
  },
  {
    method: 'put',
    path: '/products/{code}/bill',
    summary: 'Give a product’s bill a new version',
    body: schemas.Bill,
    answer: anything
  },
  {
    method: 'get',
    path: '/products/{code}/explosion',
    summary: 'What so much of a product takes, through all levels',
    query: schemas.ExplosionQuery,
    answer: anything
  },
  {
    method: 'get',
    path: '/products/{code}/where-used',
    summary: 'What a product goes into, directly or through others',
    answer: anything
  },
  {
    method: 'put',
    path: '/orders/work/{number}/outputs',
    summary: 'Name outputs of a work order ahead, typed or by the numbering scheme',
    body: schemas.NamedOutputs,
    answer: anything
  },
  {
    method: 'delete',
    path: '/orders/work/{number}/outputs',
    summary: 'Take names back that were not made yet',
    body: schemas.UnnamedOutputs,
    answer: anything
  },
  {
    method: 'post',
    path: '/orders/work/{number}/scans',
    summary: 'What a scan at the bench means for the unit in hand; nothing is written',
    body: schemas.BenchScan,
    answer: anything
  },
  {
    method: 'get',
    path: '/orders/work/{number}/traveler',
    summary: 'The traveler of a work order, as PDF',
    answer: anything
  },
  {
    method: 'get',
    path: '/marks/{id}/as-built',
    summary:
      'What a mark was built of, or what is in it now or was on a day, through all levels, compared with its bill; with format=pdf as a document',
    query: schemas.AsBuiltQuery,
    answer: anything
  },
  {
    method: 'get',
    path: '/products/{code}/spec',
    summary: 'The spec of a product, or of a customer for it',
    query: schemas.SpecQuery,
    answer: anything
  },
  {
    method: 'put',
    path: '/products/{code}/spec',
    summary: 'Give a spec a new version',
    body: schemas.Spec,
    query: schemas.SpecQuery,
    answer: anything
  },
  {
    method: 'put',
    path: '/partners/{code}/wishes',
    summary: 'What a customer wishes: least remaining life, one lot only, tested goods only',
    body: schemas.CustomerWishes,
    answer: anything
  },
  {
    method: 'get',
    path: '/orders/sales/{number}/proposal',
    summary: 'What should go on an order, and every lot with why it is taken or left',
    query: schemas.ProposalQuery,
    answer: anything
  },
  {
    method: 'put',
    path: '/orders/sales/{number}/promises',
    summary: 'Promise marks to an order, in place of what it was promised before',
    body: schemas.Promises,
    answer: anything
  },
  {
    method: 'post',
    path: '/approvals',
    summary: 'A second person lets faults of a booking pass, with their password',
    body: schemas.NewApproval,
    answer: schemas.Approval
  },
  {
    method: 'post',
    path: '/signatures',
    summary: 'Sign an act just before it is done, with the password of whoever signs',
    body: schemas.NewSignature,
    answer: schemas.SignatureGiven
  },
  {
    method: 'post',
    path: '/tests',
    summary: 'Record a test of a lot or serial; by its spec a failing one holds it',
    body: schemas.QualityTest,
    answer: anything,
    booking: true
  },
  {
    method: 'post',
    path: '/tests/{id}/signature',
    summary: 'Sign a test off, by a second person',
    answer: anything
  },
  {
    method: 'post',
    path: '/certificates',
    summary: 'Issue a certificate of analysis for marks or for a shipment',
    body: schemas.CertificateRequest,
    answer: anything
  },
  {
    method: 'get',
    path: '/certificates/{number}',
    summary: 'A certificate as it was issued, as PDF',
    answer: anything
  },
  { method: 'get', path: '/routes/{code}', summary: 'A route of stations', answer: anything },
  {
    method: 'put',
    path: '/routes/{code}',
    summary: 'Set a route of stations up, or change it',
    body: schemas.Route,
    answer: anything
  },
  {
    method: 'post',
    path: '/station-reads',
    summary:
      'Read tags at a station: each moves its unit on one step, or holds, releases, reworks, sends back or only looks',
    body: schemas.StationRead,
    answer: anything
  },
  { method: 'get', path: '/numbering-schemes', summary: 'All numbering schemes', answer: anything },
  {
    method: 'post',
    path: '/numbers',
    summary: 'Allot a block of new numbers, each given once',
    body: schemas.NumbersWanted,
    answer: schemas.NumberBlock,
    booking: true
  },
  {
    method: 'get',
    path: '/units/{sscc}',
    summary: 'A carton or pallet with what is in it',
    answer: anything
  },
  {
    method: 'get',
    path: '/units/{sscc}/label',
    summary: 'Labels of cartons and pallets, SSCCs with commas between, as PDF',
    answer: anything
  },
  {
    method: 'get',
    path: '/orders/purchase/{number}/confirmation',
    summary: 'What came of a purchase order beside what was ordered, for its supplier, as PDF',
    query: PaperAsked,
    answer: anything
  },
  {
    method: 'get',
    path: '/orders/sales/{number}/pick-list',
    summary: 'The pick list of an order in walking order; with format=pdf on paper',
    answer: anything
  },
  {
    method: 'put',
    path: '/orders/sales/{number}/pick-list',
    summary: 'Make the pick list anew: what it names is promised to the order',
    body: schemas.PickList,
    answer: anything
  },
  {
    method: 'post',
    path: '/orders/sales/{number}/picks',
    summary: 'Pick by scan',
    body: schemas.PickScan,
    answer: anything,
    booking: true
  },
  {
    method: 'delete',
    path: '/orders/sales/{number}/picks',
    summary: 'Put a picked row back',
    body: schemas.PickBack,
    answer: anything
  },
  {
    method: 'put',
    path: '/orders/sales/{number}/swaps',
    summary: 'Swap a lot or serial promised to an order for another that is free',
    body: schemas.Swap,
    answer: anything
  },
  {
    method: 'get',
    path: '/events/{id}/delivery-note',
    summary: 'The delivery note of a shipment, as PDF',
    query: PaperAsked,
    answer: anything
  },
  {
    method: 'get',
    path: '/events/{id}/epcis',
    summary:
      'An event as an EPCIS 2.0 document; of a shipment the notice with what its cartons hold',
    answer: anything
  },
  {
    method: 'get',
    path: '/company',
    summary: 'How we are named on labels, notices and letters',
    answer: anything
  },
  {
    method: 'put',
    path: '/company',
    summary: 'Change how we are named',
    body: schemas.Company,
    answer: anything
  },
  {
    method: 'post',
    path: '/lying',
    summary: 'Where things of many numbers lie, or all at a place; nothing is written',
    body: schemas.LyingQuestion,
    answer: anything
  },
  {
    method: 'get',
    path: '/products/{code}/picture',
    summary: 'What a product looks like, as PNG or JPEG; 204 where it has no picture',
    answer: anything
  },
  {
    method: 'put',
    path: '/products/{code}/picture',
    summary: 'Set what a product looks like: the body is a PNG or JPEG of at most 1 MB',
    answer: anything
  },
  {
    method: 'delete',
    path: '/products/{code}/picture',
    summary: 'Take a product’s picture off',
    answer: anything
  },
  {
    method: 'get',
    path: '/on-hand',
    summary:
      'Stock as a store keeper asks for it: narrowed, sorted, as it stood on a day, as a file',
    query: schemas.DeskFileQuery,
    answer: anything
  },
  {
    method: 'get',
    path: '/value',
    summary: 'What stock is worth, now or at the end of a day; unknown cost is counted, never zero',
    query: schemas.ValueQuery,
    answer: schemas.Value
  },
  {
    method: 'get',
    path: '/value/changes',
    summary: 'Gains, losses, scrap and revaluations of a period with their cost',
    query: schemas.ValueChangesQuery,
    answer: schemas.ValueChanges
  },
  {
    method: 'get',
    path: '/transfers',
    summary: 'Transfers between sites, those with goods under way first',
    answer: anything
  },
  {
    method: 'post',
    path: '/transfers',
    summary: 'Goods leave a site for another: they are under way, ours, and on hand nowhere',
    body: schemas.NewTransfer,
    answer: schemas.Booked,
    booking: true
  },
  {
    method: 'get',
    path: '/transfers/{document}',
    summary: 'What was ordered of a transfer, what is under way, and what happened on it',
    answer: anything
  },
  {
    method: 'put',
    path: '/transfers/{document}',
    summary: 'Order a transfer ahead, or change an order that nothing has left on',
    body: schemas.TransferOrder,
    answer: anything
  },
  {
    method: 'patch',
    path: '/transfers/{document}',
    summary: 'End an order whose rest will not be sent, or open it again',
    body: schemas.TransferChange,
    answer: anything
  },
  {
    method: 'get',
    path: '/transfers/{document}/proposal',
    summary: 'What to take for what is still to leave, soonest to expire first',
    answer: anything
  },
  {
    method: 'get',
    path: '/transfers/{document}/note',
    summary: 'What goes with the lorry, as PDF',
    answer: anything
  },
  {
    method: 'post',
    path: '/transfers/{document}/arrivals',
    summary: 'Goods of a transfer arrive, in parts if need be; the rest waits or is written off',
    body: schemas.Arrival,
    answer: schemas.Booked,
    booking: true
  },
  {
    method: 'get',
    path: '/events/{id}/signature',
    summary: 'What somebody drew on glass who took goods over, as PNG',
    answer: anything
  },
  {
    method: 'put',
    path: '/events/{id}/signature',
    summary: 'Somebody signs on glass for goods that changed hands: once, and for ever',
    body: schemas.GlassSignature,
    answer: anything
  },
  {
    method: 'get',
    path: '/service-jobs',
    summary: 'Open service jobs, oldest promise first',
    answer: anything
  },
  {
    method: 'post',
    path: '/service-jobs',
    summary: 'Open a service job on a unit: taken in at a place now, or awaited',
    body: schemas.NewServiceJob,
    answer: schemas.ServiceJobAnswer,
    booking: true
  },
  {
    method: 'get',
    path: '/service-jobs/{number}',
    summary: 'A service job with its unit, history, bookings, photographs and messages',
    answer: anything
  },
  {
    method: 'patch',
    path: '/service-jobs/{number}',
    summary: 'Turn a service job, or change what is decided of it',
    body: schemas.ServiceTurn,
    answer: anything
  },
  {
    method: 'post',
    path: '/service-jobs/{number}/arrival',
    summary: 'The unit a job waits for is here',
    body: schemas.ServiceArrival,
    answer: anything,
    booking: true
  },
  {
    method: 'post',
    path: '/service-jobs/{number}/notes',
    summary: 'What was found on a unit, or done to it and how long it took',
    body: schemas.ServiceNote,
    answer: anything,
    booking: true
  },
  {
    method: 'post',
    path: '/service-jobs/{number}/fittings',
    summary: 'Parts into the unit of a job, out of it, or both',
    body: schemas.JobFitting,
    answer: schemas.Booked,
    booking: true
  },
  {
    method: 'post',
    path: '/service-jobs/{number}/return',
    summary: 'The unit goes back to its customer, or another in its place; the job ends',
    body: schemas.ServiceReturn,
    answer: schemas.Booked,
    booking: true
  },
  {
    method: 'get',
    path: '/feed',
    summary:
      'Every event in the order of the ledger, for other systems; none that commits late is skipped',
    query: schemas.FeedQuery,
    answer: schemas.Feed
  },
  {
    method: 'get',
    path: '/records/{kind}',
    summary:
      'What an auditor asks for (kind: shipped, changes, gains, overruled, rights, exports), the latest first',
    query: schemas.RecordsQuery,
    answer: z.object({ rows: z.array(z.record(z.string(), z.string())), total: z.int() })
  },
  ...HOOK_OPERATIONS,
  ...ACCOUNT_OPERATIONS,
  {
    method: 'get',
    path: '/security-log',
    summary: 'Who came in, was refused, changed rules or took files away; the latest first',
    query: schemas.SecurityQuery,
    answer: z.object({
      lines: z.array(
        z.object({
          id: z.number(),
          at: z.string(),
          kind: z.string(),
          who: z.string().nullable(),
          login: z.string(),
          token: z.string().nullable(),
          address: z.string(),
          about: z.string()
        })
      )
    })
  },
  {
    method: 'get',
    path: '/ledger/proof',
    summary:
      'What shows that an event, or all that a trace, a recall or a certificate rests on, is in the sealed ledger, unaltered',
    query: schemas.ProofQuery,
    answer: z.union([schemas.Proof, schemas.ProofOfMany])
  },
  {
    method: 'get',
    path: '/ledger/checkpoint',
    summary: 'The signed head of the sealed ledger, and that it goes on from an earlier one',
    query: schemas.CheckpointQuery,
    answer: schemas.Checkpoint
  },
  {
    method: 'post',
    path: '/service-jobs/{number}/stock',
    summary: 'The unit stays, reconditioned, under its number or a new one; the job ends',
    body: schemas.ServiceStock,
    answer: z.object({ serial: z.string(), held: z.boolean() }),
    booking: true
  },
  {
    method: 'post',
    path: '/exchanges',
    summary: 'Shipped units come back and others go out in their place, in one act',
    body: schemas.Exchange,
    answer: z.object({ returned: schemas.Booked, shipped: schemas.Booked }),
    booking: true
  },
  {
    method: 'post',
    path: '/service-jobs/{number}/claim',
    summary: 'A part goes into the claim that is collected for its supplier',
    body: schemas.NewClaimPart,
    answer: anything,
    booking: true
  },
  {
    method: 'get',
    path: '/service-units',
    summary: 'What is known of the units a serial may mean: sales, warranty, recalls, earlier jobs',
    query: schemas.ServiceUnitQuery,
    answer: anything
  },
  {
    method: 'get',
    path: '/service-figures',
    summary: 'Turnaround, repeats, and what fails by fault, product, lot, supplier and age',
    query: schemas.FiguresQuery,
    answer: anything
  },
  {
    method: 'put',
    path: '/service-faults/{code}',
    summary: 'A word of the list faults are counted by',
    body: schemas.ServiceFault,
    answer: anything
  },
  {
    method: 'get',
    path: '/service-settings',
    summary: 'What the public pages say, and what customers are told',
    answer: schemas.ServiceSettings
  },
  {
    method: 'put',
    path: '/service-settings',
    summary: 'Change what the public pages say, and what customers are told',
    body: schemas.ServiceSettings,
    answer: schemas.ServiceSettings
  },
  {
    method: 'get',
    path: '/claims',
    summary: 'Claims on suppliers; found by our number, theirs, or the serial of a part',
    query: schemas.ClaimsQuery,
    answer: anything
  },
  {
    method: 'get',
    path: '/claims/{number}',
    summary: 'A claim with its parts and what was answered',
    answer: anything
  },
  {
    method: 'get',
    path: '/claims/{number}/letter',
    summary: 'The letter that goes to the supplier with the parts, as PDF',
    query: PaperAsked,
    answer: anything
  },
  {
    method: 'get',
    path: '/service-jobs/{number}/receipt',
    summary: 'What the customer takes home when a unit is taken in, as PDF',
    query: PaperAsked,
    answer: anything
  },
  {
    method: 'patch',
    path: '/claims/{number}',
    summary: 'A claim was sent, or answered part by part',
    body: schemas.ClaimChange,
    answer: anything
  },
  { method: 'get', path: '/counts', summary: 'Counts, the open ones first', answer: anything },
  {
    method: 'post',
    path: '/counts',
    summary: 'Open a count of places, products or lots',
    body: schemas.NewCount,
    answer: schemas.Count
  },
  {
    method: 'get',
    path: '/counts/{document}',
    summary: 'What a count has to count and what was found; of a blind one without what should be',
    answer: schemas.Count
  },
  {
    method: 'delete',
    path: '/counts/{document}',
    summary: 'End a count without booking anything',
    answer: schemas.Count
  },
  {
    method: 'get',
    path: '/counts/{document}/sheet',
    summary: 'A count on paper, as PDF',
    answer: anything
  },
  {
    method: 'put',
    path: '/counts/{document}/entries',
    summary: 'What was counted, number by number, and which places are done',
    body: schemas.CountEntries,
    answer: anything
  },
  {
    method: 'post',
    path: '/counts/{document}/approval',
    summary: 'Approve a count, by another than who counted: what was off is booked as one event',
    body: schemas.CountApproval,
    answer: schemas.Booked,
    booking: true
  },
  {
    method: 'post',
    path: '/checks/{kind}',
    summary: `The verdict on a booking without booking it (kind: ${BOOKING_KINDS.map(({ path }) => path).join(', ')})`,
    body: anything,
    answer: schemas.Verdict
  },
  {
    method: 'get',
    path: '/marks',
    summary: 'Marks by product, lot, serial or text',
    query: schemas.MarksQuery,
    answer: schemas.MarkPage
  },
  {
    method: 'get',
    path: '/marks/{id}/follow-ups',
    summary: 'Dates downstream that were computed from one to be amended, and what they would be',
    query: schemas.FollowUpsQuery,
    answer: anything
  },
  {
    method: 'get',
    path: '/stock',
    summary: 'What is on hand',
    query: schemas.StockQuery,
    answer: schemas.StockPage
  },
  {
    method: 'post',
    path: '/trace-roots',
    summary:
      'What a starting point of a trace means: numbers, a document, a partner, a place or station and time, a product and range; kept as a set',
    body: schemas.TraceStart,
    answer: anything
  },
  {
    method: 'post',
    path: '/common-sources',
    summary: 'What troubled units share upstream, ranked by how surprising the sharing is',
    body: schemas.CommonSourceQuestion,
    answer: anything
  },
  {
    method: 'get',
    path: '/trace-files/{id}',
    summary:
      'A trace of a mark, or of a kept set as s12, as a file: format=csv, xlsx, json or epcis',
    answer: anything
  },
  {
    method: 'post',
    path: '/epcis/capture',
    summary: 'Capture an EPCIS 2.0 document of another firm; what was sent before changes nothing',
    body: anything,
    answer: anything
  },
  {
    method: 'get',
    path: '/epcis/events',
    summary:
      'Events by the standard’s parameters, ours and captured ones, as an EPCISQueryDocument; the header Link names the next page',
    query: schemas.EpcisEventsQuery,
    answer: anything
  },
  { method: 'get', path: '/recalls', summary: 'Recall cases and drills', answer: anything },
  {
    method: 'post',
    path: '/recalls',
    summary: 'Open a recall case or a drill',
    body: schemas.NewRecall,
    answer: anything,
    booking: true
  },
  {
    method: 'get',
    path: '/recalls/{number}',
    summary: 'A case with its scope, frozen and compared with now, notices, answers and signatures',
    answer: anything
  },
  {
    method: 'put',
    path: '/recalls/{number}/{act}',
    summary:
      'Work on a case (act: suspects adds some; words says the case in another language for letters; scope decides it or widens it by what came since; beyond-time takes in what time cleared; hold holds all of it here; notices writes to customers; answers keeps theirs; signature signs it off; closing closes it; related names another case). hold and answers need an Idempotency-Key',
    body: z.union([
      schemas.RecallSuspects,
      schemas.RecallWords,
      schemas.RecallNotices,
      schemas.RecallAnswers,
      schemas.RecallSignature,
      schemas.RecallScope,
      schemas.RecallClosing,
      schemas.RecallRelated
    ]),
    answer: anything
  },
  {
    method: 'get',
    path: '/recalls/{number}/file',
    summary: 'The case file as PDF, or with format=xlsx as a workbook',
    answer: anything
  },
  {
    method: 'get',
    path: '/recalls/{number}/notices/{id}',
    summary: 'A letter as it was sent, as PDF',
    answer: anything
  },
  {
    method: 'get',
    path: '/trace',
    summary: 'The whole trace of one mark',
    query: schemas.TraceQuery,
    answer: schemas.Trace
  }
];

/** A schema as JSON Schema; the named ones it refers to are put among the document's components. */
function component(
  schema: z.ZodType,
  io: 'input' | 'output',
  named: Record<string, object>
): object {
  const {
    $schema: _,
    $defs = {},
    ...json
  } = JSON.parse(
    JSON.stringify(
      z.toJSONSchema(schema, { io, reused: 'inline', unrepresentable: 'any' })
    ).replaceAll('#/$defs/', '#/components/schemas/')
  );
  const { id: name } = schema.meta() ?? {};
  for (const [key, definition] of Object.entries<Record<string, unknown>>($defs)) {
    const { id: __, ...body } = definition;
    named[key] = body;
  }
  if (!name || json.$ref) return json;
  const { id: __, ...body } = json;
  named[name] = body;
  return { $ref: `#/components/schemas/${name}` };
}

/** The OpenAPI 3.1 document, made from the Zod schemas. */
/** How it answers where it is done: without a body where it says nothing. */
const done = ({ answer }: Operation, said: object): Record<number, object> =>
  answer === nothing ? { 204: { description: 'Done' } } : { 200: said };

export function openApi(): object {
  const named: Record<string, object> = {};
  const paths: Record<string, Record<string, object>> = {};
  for (const operation of OPERATIONS) {
    const pathParameters = [...operation.path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
      name,
      in: 'path',
      required: true,
      schema: { type: 'string' }
    }));
    const query = operation.query
      ? Object.entries(operation.query.shape).map(([name, schema]) => ({
          name,
          in: 'query',
          required: !(schema as z.ZodType).safeParse(undefined).success,
          schema: component(schema as z.ZodType, 'input', named)
        }))
      : [];
    const headers = operation.booking
      ? [
          {
            name: 'Idempotency-Key',
            in: 'header',
            required: true,
            schema: { type: 'string', minLength: 1, maxLength: 200 }
          }
        ]
      : [];
    const answer = {
      description: 'Done',
      content: { 'application/json': { schema: component(operation.answer, 'output', named) } }
    };
    const problem = {
      description: 'Refused, with all faults',
      content: {
        'application/problem+json': { schema: component(schemas.ProblemDocument, 'output', named) }
      }
    };
    (paths[operation.path] ??= {})[operation.method] = {
      summary: operation.summary,
      parameters: [...pathParameters, ...query, ...headers],
      ...(operation.body
        ? {
            requestBody: {
              required: true,
              content: { 'application/json': { schema: component(operation.body, 'input', named) } }
            }
          }
        : {}),
      responses: operation.booking
        ? {
            201: { ...answer, description: 'Booked' },
            200: { ...answer, description: 'Booked before under this key; the same answer again' },
            400: problem,
            401: problem,
            403: problem,
            409: problem,
            422: problem
          }
        : { ...done(operation, answer), 400: problem, 401: problem, 403: problem, 404: problem }
    };
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Earmark',
      version: '1',
      description: 'Traceability of lots and serials: bookings, stock and trace.'
    },
    servers: [{ url: '/api/v1' }],
    security: [{ bearer: [] }],
    paths,
    components: { schemas: named, securitySchemes: { bearer: { type: 'http', scheme: 'bearer' } } }
  };
}
