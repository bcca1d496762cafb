/** Certificates by ACME (RFC 8555, http-01) through acme-client; keys are on the curve P-256, which every browser takes. */
import { progressStep, type ProgressStep } from '@fastigium/contracts/messages/progress';
import { Agent } from 'node:https';
import { DomainError } from '@fastigium/contracts/errors';
import acme from 'acme-client';

export interface AcmePort {
  readonly directory: string;
  /** The authority's name in CAA records. */
  readonly caaIdentity: string;
  newAccountKey(): Promise<Buffer>;
  /** Throws a DomainError `certificate-refused` with the authority's own words. */
  order(request: {
    readonly names: readonly string[];
    readonly accountKey: Buffer;
    /** Makes an answer visible at every name, or takes it away again (null). */
    readonly answer: (token: string, keyAuthorization: string | null) => Promise<void>;
    readonly signal: AbortSignal;
    readonly onStep: (step: ProgressStep) => void;
  }): Promise<{ chain: string; key: string }>;
}

export function createAcmePort({
  directory,
  ca,
  caaIdentity,
}: {
  directory: string;
  ca: string | undefined;
  caaIdentity: string;
}): AcmePort {
  // One process talks to one authority, so the client's shared agent may carry its root.
  if (ca !== undefined) acme.axios.defaults.httpsAgent = new Agent({ ca, keepAlive: false });
  acme.axios.defaults.timeout = 15_000;
  // Whoever waits should learn within seconds that the authority is away; the order is tried again later anyway.
  Object.assign((acme.axios.defaults as unknown as { acmeSettings: object }).acmeSettings, {
    retryMaxAttempts: 1,
    retryDefaultDelay: 1,
  });
  return {
    directory,
    caaIdentity,
    newAccountKey: () => acme.crypto.createPrivateEcdsaKey('P-256'),
    async order({ names, accountKey, answer, signal, onStep }) {
      try {
        const client = new acme.Client({
          directoryUrl: directory,
          accountKey,
          backoffMin: 200,
          backoffMax: 3000,
          backoffAttempts: 8,
        });
        onStep(progressStep('certificate-account'));
        // The same key gets the same account back (RFC 8555 section 7.3.1), also from an authority that has forgotten it.
        // No contacts, said outright: for a known account the client sends an update, and an empty one is refused.
        await client.createAccount({ termsOfServiceAgreed: true, contact: [] });
        signal.throwIfAborted();
        onStep(progressStep('certificate-order'));
        const order = await client.createOrder({ identifiers: names.map((value) => ({ type: 'dns', value })) });
        for (const authorization of await client.getAuthorizations(order)) {
          signal.throwIfAborted();
          if (authorization.status === 'valid') continue;
          const challenge = authorization.challenges.find(({ type }) => type === 'http-01');
          if (!challenge) throw new Error('the authority offers no http-01 challenge');
          onStep(progressStep('certificate-prove', { name: authorization.identifier.value }));
          await answer(challenge.token, await client.getChallengeKeyAuthorization(challenge));
          try {
            await client.completeChallenge(challenge);
            await client.waitForValidStatus(challenge);
          } finally {
            await answer(challenge.token, null);
          }
        }
        onStep(progressStep('certificate-fetch'));
        const [key, csr] = await acme.crypto.createCsr(
          { altNames: [...names] },
          await acme.crypto.createPrivateEcdsaKey('P-256'),
        );
        const chain = await client.getCertificate(await client.finalizeOrder(order, csr));
        return { chain, key: key.toString() };
      } catch (error) {
        if (error instanceof DomainError || signal.aborted) throw error;
        throw new DomainError(
          'certificate-refused',
          { detail: (error as Error).message.replace(/\s+/g, ' ').slice(0, 300) },
          { cause: error },
        );
      }
    },
  };
}
