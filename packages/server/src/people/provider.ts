// Signing in with the house's own accounts: OpenID Connect Core 1.0, the code flow with PKCE (RFC 7636).
import * as client from 'openid-client';
import type { Request } from 'express';
import { Refused } from '../errors.ts';

export interface ProviderOptions {
  issuer: URL;
  clientId: string;
  clientSecret: string;
  /** What people call it. */
  name: string;
}
/** What the provider says of who came back. */
interface Known {
  subject: string;
  /** Only where the provider has seen that it is theirs. */
  email: string | undefined;
}
/** What the provider's answer is checked against while one is away there. */
export interface Away {
  state: string;
  verifier: string;
  nonce: string;
}
export interface Provider {
  name: string;
  /** The address to send somebody to, and what their session must remember until they are back. */
  leave: (returnTo: URL) => Promise<{ to: URL; away: Away }>;
  /** Throws Refused where the answer is not to what was asked. */
  welcome: (request: Request, at: URL) => Promise<Known>;
}

/** The provider is asked what it can do when somebody first goes there: a server starts without it. */
export function openProvider({ issuer, clientId, clientSecret, name }: ProviderOptions): Provider {
  let found: Promise<client.Configuration> | undefined;
  // a provider on this machine needs no TLS; one elsewhere does
  const isHere = issuer.protocol === 'http:' && ['127.0.0.1', 'localhost'].includes(issuer.hostname);
  // eslint-disable-next-line @typescript-eslint/no-deprecated -- marked so only to stand out
  const options = isHere ? { execute: [client.allowInsecureRequests] } : undefined;
  const configuration = () =>
    (found ??= client.discovery(issuer, clientId, clientSecret, undefined, options).catch((error: unknown) => {
      found = undefined;
      throw new Refused('unavailable', `${name} does not answer: ${error instanceof Error ? error.message : ''}`);
    }));
  return {
    name,
    leave: async (returnTo) => {
      const away = {
        state: client.randomState(),
        verifier: client.randomPKCECodeVerifier(),
        nonce: client.randomNonce(),
      };
      const to = client.buildAuthorizationUrl(await configuration(), {
        redirect_uri: returnTo.href,
        scope: 'openid email profile',
        state: away.state,
        nonce: away.nonce,
        code_challenge: await client.calculatePKCECodeChallenge(away.verifier),
        code_challenge_method: 'S256',
      });
      return { to, away };
    },
    welcome: async (request, at) => {
      const { away } = request.session;
      if (!away) throw new Refused('invalid-input', 'Nobody was on the way to sign in here. Begin again.');
      delete request.session.away;
      const checks = { pkceCodeVerifier: away.verifier, expectedState: away.state, expectedNonce: away.nonce };
      const tokens = await client
        .authorizationCodeGrant(await configuration(), at, { ...checks, idTokenExpected: true })
        .catch((error: unknown) => {
          if (error instanceof Refused) throw error;
          throw new Refused('not-allowed', `${name} did not let you in: ${(error as Error).message}.`);
        });
      const claims = tokens.claims()!;
      const { iss, sub, email, email_verified: isTheirs } = claims;
      return { subject: `${iss} ${sub}`, email: isTheirs === true && typeof email === 'string' ? email : undefined };
    },
  };
}
