/** A measured figure beside the most it may be. */
export interface Figure {
  readonly name: string;
  readonly value: number;
  readonly unit: 'ratio' | 'kB' | 'MB' | 'ms' | 'in all';
  readonly most: number;
  /** What was measured, in absolute numbers, for those who want to know. */
  readonly from: string;
}
