/** Passkeys by the browser (Web Authentication Level 3); loaded when somebody has or makes one. */
import type { passkeyAnswer } from '@fastigium/contracts/api/session';
import type { z } from 'zod';
import { say } from './words.ts';

type Answer = z.output<typeof passkeyAnswer>;
type Options = Record<string, unknown>;

/** Rejects with an Error in words where the browser, its device or the person does not go on. */
export async function usePasskey(options: Options): Promise<Answer> {
  const { startAuthentication } = await import('@simplewebauthn/browser');
  return sayFailure(startAuthentication({ optionsJSON: options as never }));
}

export async function makePasskey(options: Options): Promise<Answer> {
  const { startRegistration } = await import('@simplewebauthn/browser');
  return sayFailure(startRegistration({ optionsJSON: options as never }));
}

const WORDS: Readonly<Record<string, string>> = {
  NotAllowedError: say('passkeys.thePasskeyWasNotUsed'),
  InvalidStateError: say('passkeys.thisDeviceHasAPasskey'),
  NotSupportedError: say('passkeys.thisBrowserOrDeviceHas'),
  SecurityError: say('passkeys.passkeysNeedTheApplicationsOwn'),
};

async function sayFailure(work: Promise<unknown>): Promise<Answer> {
  try {
    return (await work) as Answer;
  } catch (error) {
    const { name, cause } = error as Error & { cause?: { name?: string } };
    throw new Error(WORDS[cause?.name ?? name] ?? WORDS[name] ?? (error as Error).message, { cause: error });
  }
}
