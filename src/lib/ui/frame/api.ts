import type { SignatureAsked } from '../../core/people/signing.ts';

/** What a refused request says; the form of the API's problem documents. */
export interface Refusal {
  status: number;
  title: string;
  detail?: string;
  errors: RefusalError[];
}
interface RefusalError {
  code: string;
  path: string;
  number?: string;
  message: string;
  event?: number;
  sign?: SignatureAsked;
}
/** What a refusal says, in sentences; its title where it says nothing else. */
export const messagesOf = ({ title, errors }: Refusal): string[] =>
  errors.length > 0 ? errors.map((error) => error.message) : [title];
export type Reply<T> = { ok: true; status: number; body: T } | { ok: false; refusal: Refusal };

/** What is answered where no answer came. */
export const unreachable: Reply<never> = {
  ok: false,
  refusal: {
    status: 0,
    title: 'Earmark cannot be reached',
    errors: [
      {
        code: 'connection.lost',
        path: '',
        message: 'What you typed is still here. Check the network and try again.'
      }
    ]
  }
};

/**
 * Called when a request finds nobody signed in; shows the sign-in over the sheet and answers
 * whether it succeeded.
 */
let askToSignIn: () => Promise<boolean> = async () => false;
export const onSignedOut = (ask: () => Promise<boolean>): void => {
  askToSignIn = ask;
};

/** Called when a request finds the device locked. */
let coverScreen: () => void = () => {};
export const onLocked = (cover: () => void): void => {
  coverScreen = cover;
};

/** Called with every request: whether Earmark answered. */
let hearLine: (there: boolean) => void = () => {};
export const onLine = (hear: (there: boolean) => void): void => {
  hearLine = hear;
};

/** What is to be signed, and for which document. */
export interface ToSign extends SignatureAsked {
  document: string;
}

/**
 * Called where nothing but a signature is missing; shows what is signed and answers what signing
 * gave, or null where nobody signed.
 */
let askToSign: (what: ToSign) => Promise<string | null> = async () => null;
export const onUnsigned = (ask: typeof askToSign): void => {
  askToSign = ask;
};

/** The signature a refusal waits for; null where something else is wrong too. */
function signatureAsked(refusal: Refusal): ToSign | null {
  const [first, ...others] = refusal.errors;
  if (!first?.sign || others.length > 0) return null;
  return { ...first.sign, document: first.number ?? '' };
}

/**
 * Headers that say what whoever keeps something has seen of it.
 * @param tag its entity tag: refused where it is another by now. Null where there was nothing: then
 * it is refused where there is something
 */
export const asSeen = (tag: string | null): Record<string, string> =>
  tag === null ? { 'if-none-match': '*' } : { 'if-match': tag };

async function refusalOf(response: Response): Promise<Refusal> {
  const refusal = (await response
    .json()
    .catch(() => ({ title: 'Something went wrong', errors: [] }))) as Refusal;
  return { ...refusal, errors: refusal.errors ?? [], status: response.status };
}

/** Sends a request to Earmark's own API whose answer is JSON, or nothing. As `ask` does. */
export const send = <T>(
  method: string,
  path: string,
  body?: unknown,
  headers: Record<string, string> = {}
): Promise<Reply<T>> =>
  ask(method, path, body, headers, async (response) =>
    response.status === 204 ? (null as T) : ((await response.json()) as T)
  );

/** The same for an answer that is a file. */
export const sendForFile = (method: string, path: string, body: unknown): Promise<Reply<Blob>> =>
  ask(method, path, body, {}, (response) => response.blob());

/**
 * Asks Earmark; a body is JSON, or a file as it is. Where the session has run out it asks to sign in
 * again and sends it once more, so nothing typed is lost; where a plan asks for a signature, it asks
 * for that. A lost connection is a refusal with status 0.
 * @param read what an answer holds
 */
async function ask<T>(
  method: string,
  path: string,
  body: unknown,
  headers: Record<string, string>,
  read: (response: Response) => Promise<T>
): Promise<Reply<T>> {
  for (let attempt = 1; ; attempt++) {
    let response: Response;
    try {
      response = await fetch(path, {
        method,
        headers: {
          ...(body === undefined
            ? {}
            : {
                'content-type':
                  body instanceof Blob ? 'application/octet-stream' : 'application/json'
              }),
          ...headers
        },
        ...(body === undefined ? {} : { body: body instanceof Blob ? body : JSON.stringify(body) })
      });
    } catch {
      hearLine(false);
      return unreachable;
    }
    hearLine(true);
    if (response.ok) return { ok: true, status: response.status, body: await read(response) };
    if (response.status === 423) coverScreen();
    if (
      response.status === 401 &&
      attempt === 1 &&
      !path.startsWith('/api/v1/sign-in') &&
      (await askToSignIn())
    )
      continue;
    const refusal = await refusalOf(response);
    const asked = signatureAsked(refusal);
    const signature = asked && (await askToSign(asked));
    if (!signature) return { ok: false, refusal };
    // Several acts in one are signed one after the other.
    const before = (body as { signature?: string }).signature;
    body = { ...(body as object), signature: [before, signature].filter(Boolean).join(' ') };
  }
}
