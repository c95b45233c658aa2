import type { SessionWait } from '../../core/people/session-wait.ts';
import { Problem } from '../kernel/problem.ts';

interface Waiting {
  /** The page that is shown instead of any other. */
  page: string;
  /** Routes that are open meanwhile. */
  open: readonly string[];
  status: number;
  title: string;
  message: string;
}

const ACCOUNT = ['/account', '/api/v1/account'];

/** What a session that waits may do meanwhile, and how everything else is refused. */
const WAITING: Record<SessionWait, Waiting> = {
  'second factor': {
    page: '/sign-in/second',
    open: ['/sign-in/second', '/api/v1/sign-in/second', '/api/v1/sign-in/passkey'],
    status: 401,
    title: 'The second factor is missing',
    message: 'Type the code that stands on your device now, or a recovery code, or use a passkey.'
  },
  unlocking: {
    page: '/locked',
    open: ['/locked', '/api/v1/session/unlock'],
    status: 423,
    title: 'This device is locked',
    message: 'Come back with your password, or with badge and PIN.'
  },
  'new password': {
    page: '/account',
    open: [...ACCOUNT, '/api/v1/account/password'],
    status: 403,
    title: 'A password of your own comes first',
    message: 'Somebody else set this password and knows it. Change it on your account page.'
  },
  'factor set-up': {
    page: '/account',
    open: [
      ...ACCOUNT,
      '/api/v1/account/time-code',
      '/api/v1/account/passkeys',
      '/api/v1/account/passkeys/options'
    ],
    status: 403,
    title: 'A second factor comes first',
    message: 'Your role needs a second factor. Set one up on your account page.'
  }
};

export const isOpenWhile = (wait: SessionWait, routeId: string): boolean =>
  WAITING[wait].open.includes(routeId);

/** The page a waiting session is led to, and back from it. */
export const pageOfWait = (wait: SessionWait, to: string): string =>
  `${WAITING[wait].page}?to=${encodeURIComponent(to)}`;

export function waitProblem(wait: SessionWait): Problem {
  const { status, title, message } = WAITING[wait];
  return new Problem(status, title, [{ code: 'right.missing', path: '', message }]);
}
