import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import Provider, { type Configuration } from 'oidc-provider';

/** Who signs in at the provider next, and what it says of them. */
export interface AtProvider {
  issuer: string;
  /** What Earmark is told of it. */
  env: Record<string, string>;
  signsIn: (claims: { sub: string } & Record<string, unknown>) => void;
  end: () => Promise<void>;
}

const CLIENT = { id: 'earmark', secret: 'a-secret-of-the-tests-only' };

/**
 * The reference provider, on loopback: whoever was named last is signed in at once. As a native
 * client's, its way back may have any port (RFC 8252, 7.3).
 */
export async function startProvider(): Promise<AtProvider> {
  let now: { sub: string } & Record<string, unknown> = { sub: 'nobody' };
  const server = createServer();
  const port = await listening(server);
  const issuer = `http://localhost:${port}`;
  const provider = new Provider(
    issuer,
    configuration(() => now)
  );
  const callback = provider.callback();
  server.on('request', (request, response) => {
    if (!request.url?.startsWith('/interaction/')) return void callback(request, response);
    void finish(provider, request, response, () => now.sub);
  });
  return {
    issuer,
    env: {
      EARMARK_OIDC_ISSUER: issuer,
      EARMARK_OIDC_CLIENT_ID: CLIENT.id,
      EARMARK_OIDC_CLIENT_SECRET: CLIENT.secret,
      EARMARK_OIDC_NAME: 'Brackwater accounts'
    },
    signsIn: (claims) => {
      now = claims;
    },
    end: () => new Promise((closed) => server.close(() => closed()))
  };
}

const listening = (server: Server): Promise<number> =>
  new Promise((ready) =>
    server.listen(0, '127.0.0.1', () => {
      server.unref();
      ready((server.address() as AddressInfo).port);
    })
  );

const configuration = (who: () => Record<string, unknown>): Configuration => ({
  clients: [
    {
      client_id: CLIENT.id,
      client_secret: CLIENT.secret,
      application_type: 'native',
      redirect_uris: ['http://localhost/sign-in/back']
    }
  ],
  cookies: { keys: ['of the tests only'] },
  claims: { profile: ['preferred_username', 'name', 'roles'] },
  features: { devInteractions: { enabled: false } },
  interactions: { url: (_context, interaction) => `/interaction/${interaction.uid}` },
  findAccount: (_context, sub) => ({
    accountId: sub,
    claims: async () => ({ ...who(), sub })
  }),
  // Asked each time, so that each test signs in who it says.
  ttl: { Session: 1 }
});

/** Signs in who is named, and grants what is asked. */
async function finish(
  provider: Provider,
  request: Parameters<Provider['interactionDetails']>[0],
  response: Parameters<Provider['interactionDetails']>[1],
  who: () => string
): Promise<void> {
  const { params, prompt, grantId, session } = await provider.interactionDetails(request, response);
  if (prompt.name === 'login') {
    const login = { accountId: who() };
    await provider.interactionFinished(request, response, { login });
    return;
  }
  const grant = grantId
    ? await provider.Grant.find(grantId)
    : new provider.Grant({ accountId: session!.accountId, clientId: String(params.client_id) });
  grant!.addOIDCScope(String(params.scope));
  const consent = { grantId: await grant!.save() };
  await provider.interactionFinished(
    request,
    response,
    { consent },
    { mergeWithLastSubmission: true }
  );
}
