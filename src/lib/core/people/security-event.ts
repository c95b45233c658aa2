/** What the security log tells of. */
export const SECURITY_KINDS = [
  'signed in',
  'sign-in refused',
  'signed out',
  'refused',
  'changed',
  'file taken'
] as const;
export type SecurityKind = (typeof SECURITY_KINDS)[number];

/** One line of it. */
export interface SecurityLine {
  id: number;
  at: string;
  kind: SecurityKind;
  /** Who it was; null where nobody was signed in. */
  who: string | null;
  /** The name that was given at sign-in. */
  login: string;
  /** The token it came by. */
  token: string | null;
  address: string;
  about: string;
}

/** Routes that change who may do what, or by which rules things are done. */
const RULES = [
  /^\/api\/v1\/people\//,
  /^\/api\/v1\/account\//,
  /^\/api\/v1\/access-settings$/,
  /^\/api\/v1\/hooks/,
  /^\/api\/v1\/marking-plans\//,
  /^\/api\/v1\/numbering-schemes\//,
  /^\/api\/v1\/company$/,
  /^\/api\/v1\/service-settings$/,
  /^\/api\/v1\/products\/\[code\]\/spec$/,
  /^\/api\/v1\/partners\/\[code\]\/wishes$/,
  /^\/api\/v1\/imports\//
];

/** A request and how it was answered, as far as it matters here. */
export interface Answered {
  /** Id of the route. */
  route: string;
  method: string;
  status: number;
  /** Whether a file was answered, to be kept. */
  isFile: boolean;
}

/**
 * What the security log says of a request; null where it says nothing. Signing in is told where the
 * name is known.
 */
export function securityKindOf({ route, method, status, isFile }: Answered): SecurityKind | null {
  if (status === 403) return 'refused';
  if (status >= 400) return null;
  if (route === '/sign-out' && method === 'POST') return 'signed out';
  if (method === 'GET') return isFile ? 'file taken' : null;
  return RULES.some((rule) => rule.test(route)) ? 'changed' : null;
}
