import { mayDo, RIGHTS, type Right, type Role } from './rights.ts';

/** What each right lets somebody do, as words of a sentence that begins with “may”. */
export const SAY_RIGHT: Record<Right, string> = {
  read: 'read every screen',
  draft: 'keep what is half typed',
  allot: 'have numbers given',
  'book.receive': 'receive',
  'book.opening': 'book opening stock',
  'book.build': 'build',
  'book.ship': 'ship',
  'book.move': 'move and transfer',
  count: 'count',
  'book.identify': 'give numbers later',
  'book.correct': 'correct stock',
  'book.scrap': 'scrap',
  'book.repack': 'repack',
  'book.reverse': 'take back what was booked',
  'book.return': 'take returns',
  'book.revalue': 'say what goods cost',
  'see.costs': 'see costs',
  'read.security': 'read the security log',
  service: 'work on service jobs',
  recall: 'recall',
  capture: 'take in event documents',
  trace: 'trace',
  floor: 'work on the floor',
  test: 'test',
  promise: 'promise stock to orders',
  approve: 'approve as a second person',
  'edit.spec': 'set limits',
  certify: 'issue certificates',
  amend: 'amend numbers and dates',
  print: 'print labels',
  'decide.quality': 'hold, release and reject',
  import: 'bring in files',
  'edit.orders': 'enter orders',
  'edit.catalogue': 'change what is set up',
  'edit.people': 'look after people and their rights'
};

/** What comes with every role and need not be said. */
const USUAL: readonly Right[] = ['read', 'trace', 'draft'];

/** What roles let somebody do, in words, beyond what everybody may. */
export const sayRights = (roles: readonly Role[]): string[] =>
  RIGHTS.filter((right) => !USUAL.includes(right) && mayDo(roles, right)).map(
    (right) => SAY_RIGHT[right]
  );
