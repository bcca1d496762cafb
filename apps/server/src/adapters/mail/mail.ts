/** Mail through whatever server the operator names (SMTP, RFC 5321; submission, RFC 6409). */
import { DomainError } from '@fastigium/contracts/errors';
import { createTransport } from 'nodemailer';
import type { Config } from '../../config/config.ts';

export interface Mail {
  /** Throws a DomainError `mail-failed`. */
  send(mail: { readonly to: string; readonly subject: string; readonly text: string }): Promise<void>;
}

/** As long as a person waits for a page. */
const WITHIN_MS = 20_000;

/** @returns undefined where no mail is set up */
export function openMail(config: Config['mail']): Mail | undefined {
  if (config === undefined) return undefined;
  const transport = createTransport({
    url: config.url,
    connectionTimeout: WITHIN_MS,
    greetingTimeout: WITHIN_MS,
    socketTimeout: WITHIN_MS,
    // Not in clear text where the server offers better, and never by a certificate of somebody else's.
    ...(config.allowsPlain ? {} : { requireTLS: true }),
    disableFileAccess: true,
    disableUrlAccess: true,
  });
  return {
    async send(mail) {
      try {
        await transport.sendMail({ from: config.from, ...mail });
      } catch (error) {
        throw new DomainError('mail-failed', { reason: (error as Error).message }, { cause: error });
      }
    },
  };
}
