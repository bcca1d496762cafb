/** How it is said who can visit. */
import type { EntryKind, VisitorPlace } from '@fastigium/contracts/api/visitors';
import type { Mark } from '../../logic/marks.ts';
import { say } from './words.ts';

export const ENTRY_WORDS: Readonly<Record<EntryKind, string>> = {
  everyone: say('visitor.allOfThem'),
  password: say('visitor.thoseWithAPassword'),
  nobody: say('visitor.nobodyYet'),
};

/** In the order of how many are let in. */
export const ENTRY_CHOICES: readonly { readonly value: EntryKind; readonly label: string }[] = [
  { value: 'everyone', label: say('visitor.everyone') },
  { value: 'password', label: say('visitor.withAPassword') },
  { value: 'nobody', label: say('visitor.nobodyYet2') },
];

export function placeWords({ kind, user }: Pick<VisitorPlace, 'kind' | 'user'>): string {
  return kind === 'password' ? say('visitor.thoseWithThePasswordOf', { user: user ?? '' }) : ENTRY_WORDS[kind];
}

export const chooseEntryMark = (kind: EntryKind): Mark =>
  (({ everyone: 'verdigris', password: 'lapis', nobody: 'dashed' }) as const)[kind];

// Letters and figures that are not mistaken for each other, read aloud or on paper.
const LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789';
const GROUPS = 4;
const GROUP_LETTERS = 4;

/** Some 79 bits from as many random bytes: more than anybody tries out. @param random bytes, one a letter or more */
export function createPassword(random: Uint8Array): string {
  // What would make some letters likelier than others is passed over.
  const letters = [...random]
    .filter((byte) => byte < 256 - (256 % LETTERS.length))
    .map((byte) => LETTERS[byte % LETTERS.length] ?? '')
    .slice(0, GROUPS * GROUP_LETTERS);
  return Array.from({ length: GROUPS }, (_, group) =>
    letters.slice(group * GROUP_LETTERS, (group + 1) * GROUP_LETTERS).join(''),
  ).join('-');
}
