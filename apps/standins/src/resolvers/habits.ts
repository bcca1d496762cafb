/** Five ways resolvers are run. The habits are real ones; the names and figures are invented. */
export interface Habit {
  readonly id: string;
  readonly name: string;
  /** An answer is kept at least this long, whatever its TTL. */
  readonly floorSeconds: number;
  readonly capSeconds: number;
  readonly delayMs: number;
  /** How much of an answer's time is left when a change happens, since other people asked before. */
  readonly warmth: number;
}

export const HABITS: readonly Habit[] = [
  { id: 'home', name: 'Home line', floorSeconds: 0, capSeconds: 86_400, delayMs: 0, warmth: 0.22 },
  { id: 'public', name: 'Public resolver', floorSeconds: 0, capSeconds: 21_600, delayMs: 0, warmth: 0.7 },
  { id: 'mobile', name: 'Mobile network', floorSeconds: 0, capSeconds: 86_400, delayMs: 350, warmth: 0.47 },
  { id: 'office', name: 'Office network', floorSeconds: 1800, capSeconds: 86_400, delayMs: 0, warmth: 1 },
  { id: 'campus', name: 'Campus', floorSeconds: 0, capSeconds: 604_800, delayMs: 0, warmth: 0.98 },
];
