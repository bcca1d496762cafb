/** Chance that can be had again: the same seed gives the same relaunch (mulberry32, public domain). */
export interface Chance {
  /** From 0 up to 1, without it. */
  next(): number;
  is(probability: number): boolean;
  /** A whole number from `from` up to and with `to`. */
  whole(from: number, to: number): number;
  one<T>(of: readonly T[]): T;
  some<T>(of: readonly T[], share: number): T[];
  shuffled<T>(of: readonly T[]): T[];
}

export function chance(seed: number): Chance {
  let state = seed >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  const whole = (from: number, to: number) => from + Math.floor(next() * (to - from + 1));
  const shuffled = <T>(of: readonly T[]) => {
    const out = [...of];
    for (let at = out.length - 1; at > 0; at -= 1) {
      const other = whole(0, at);
      [out[at], out[other]] = [out[other] as T, out[at] as T];
    }
    return out;
  };
  return {
    next,
    whole,
    shuffled,
    is: (probability) => next() < probability,
    one: (of) => of[whole(0, of.length - 1)] as (typeof of)[number],
    some: (of, share) => of.filter(() => next() < share),
  };
}
