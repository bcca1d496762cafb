/** The letters by which an old address is settled, wherever its bench stands. */

/** What the bench of an old address does. */
export interface SettlingBench {
  setApart(): unknown;
  choose(number: number): void;
  settleHome(): unknown;
  settleGone(): unknown;
}

/** @param work begins writing a target @returns whether the key was one of these; it is done then */
export function settleByKey(event: KeyboardEvent, bench: SettlingBench | undefined, work: () => void): boolean {
  if (event.key === 'e') work();
  else if (event.key === 'n') bench?.setApart();
  else if (/^[1-3]$/.test(event.key)) bench?.choose(Number(event.key));
  else if (event.key === 'h') bench?.settleHome();
  else if (event.key === 'x') bench?.settleGone();
  else return false;
  event.preventDefault();
  return true;
}
