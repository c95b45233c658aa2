import {
  browserSupportsWebAuthn,
  startAuthentication,
  startRegistration,
  type PublicKeyCredentialCreationOptionsJSON,
  type PublicKeyCredentialRequestOptionsJSON
} from '@simplewebauthn/browser';
import { send, type Reply } from '../frame/api.ts';

/** Whether this browser has passkeys at this address: over https, or on localhost. */
export const passkeysWork = (): boolean => browserSupportsWebAuthn();

const refused = (error: unknown): Reply<never> => ({
  ok: false,
  refusal: {
    status: 0,
    title: 'The passkey was not used',
    errors: [
      {
        code: 'passkey',
        path: '',
        message:
          error instanceof Error && error.name === 'InvalidStateError'
            ? 'This device is registered already.'
            : 'The device did not answer, or was told not to. Try again.'
      }
    ]
  }
});

/** Shows the second factor by a passkey. */
export async function answerWithPasskey(): Promise<Reply<unknown>> {
  const asked = await send<PublicKeyCredentialRequestOptionsJSON>(
    'POST',
    '/api/v1/sign-in/passkey'
  );
  if (!asked.ok) return asked;
  try {
    const passkey = await startAuthentication({ optionsJSON: asked.body });
    return await send('POST', '/api/v1/sign-in/second', { passkey });
  } catch (error) {
    return refused(error);
  }
}

/** Makes a passkey on this device, under a name its person knows it by. */
export async function makePasskey(
  name: string,
  password: string
): Promise<Reply<{ recovery: string[] }>> {
  const offered = await send<PublicKeyCredentialCreationOptionsJSON>(
    'POST',
    '/api/v1/account/passkeys/options',
    { password }
  );
  if (!offered.ok) return offered;
  try {
    const response = await startRegistration({ optionsJSON: offered.body });
    return await send('POST', '/api/v1/account/passkeys', { name, response });
  } catch (error) {
    return refused(error);
  }
}
