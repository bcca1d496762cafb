/** How fast long work goes, and how long it still takes, from what was told of it. */
export interface Sample {
  readonly atMs: number;
  readonly done: number;
}

export interface Pace {
  /** A second. */
  readonly speed: number;
  readonly leftMs: number;
}

/** What happened before this long ago says little of now. */
const WINDOW_MS = 10_000;
/** From less than this nobody can tell. */
const LEAST_MS = 1500;

/** Those that still say something, with the new one; work that began anew, or a step that did, begins here too. */
export function withSample(samples: readonly Sample[], next: Sample): readonly Sample[] {
  const last = samples.at(-1);
  if (last && next.done < last.done) return [next];
  return [...samples.filter(({ atMs }) => next.atMs - atMs <= WINDOW_MS), next];
}

/** Undefined while nobody can tell. */
export function reckonPace(samples: readonly Sample[], total: number): Pace | undefined {
  const [first, last] = [samples[0], samples.at(-1)];
  if (!first || !last || last.atMs - first.atMs < LEAST_MS || last.done <= first.done) return undefined;
  const speed = ((last.done - first.done) / (last.atMs - first.atMs)) * 1000;
  return { speed, leftMs: Math.max(0, (total - last.done) / speed) * 1000 };
}
