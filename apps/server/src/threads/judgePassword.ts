/** Whether a password is one that guessers try early: held against the lists of known ones that the packages ship. */
import { reason, type ReasonMessage } from '@fastigium/contracts/messages/reason';
import type { ZxcvbnFactory } from '@zxcvbn-ts/core';

export interface PasswordToJudge {
  readonly password: string;
  /** What its owner and this place are called: names, addresses. */
  readonly about: readonly string[];
}

/** The first of these tell; what comes behind them makes it no easier to guess, and takes long to reckon. */
const MOST_CHARS = 64;
/** Of 0 to 4: from 3 on, a guesser without the hash needs more than 10^8 guesses (the package's own scale). */
const LEAST_SCORE = 3;

let judge: Promise<ZxcvbnFactory> | undefined;

/** Reading the lists takes a second or two, so only a thread that is asked has them. */
async function readLists(): Promise<ZxcvbnFactory> {
  const [core, common, english] = await Promise.all([
    import('@zxcvbn-ts/core'),
    import('@zxcvbn-ts/language-common'),
    import('@zxcvbn-ts/language-en'),
  ]);
  return new core.ZxcvbnFactory({
    dictionary: { ...common.dictionary, ...english.dictionary },
    graphs: common.adjacencyGraphs,
  });
}

/** @returns what makes it easy to guess; null where nothing does */
export async function judgePassword({ password, about }: PasswordToJudge): Promise<ReasonMessage | null> {
  judge ??= readLists();
  const whole = password.toLowerCase();
  if (about.some((name) => name !== '' && name.toLowerCase() === whole)) return reason('password-own-name');
  const { score, sequence } = (await judge).check(password.slice(0, MOST_CHARS), [...about]);
  if (score >= LEAST_SCORE) return null;
  const [first] = [...sequence].sort((a, b) => b.j - b.i - (a.j - a.i));
  return first === undefined ? reason('password-short') : describeMatch(first);
}

function describeMatch(match: { pattern: string; dictionaryName?: unknown }): ReasonMessage {
  if (match.pattern === 'dictionary') {
    const list = String(match.dictionaryName);
    if (list.startsWith('passwords')) return reason('password-known');
    return list.startsWith('userInputs') ? reason('password-own') : reason('password-word');
  }
  const byPattern: Readonly<Record<string, ReasonMessage>> = {
    spatial: reason('password-keys'),
    repeat: reason('password-repeats'),
    sequence: reason('password-row'),
    date: reason('password-date'),
  };
  return byPattern[match.pattern] ?? reason('password-short');
}
