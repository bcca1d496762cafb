/** Two releases by their numbers. */
export interface Two {
  readonly before: number;
  readonly after: number;
}
