/** Source before and after, as lines to show. */
import { diffLines } from 'diff';

export interface DiffLine {
  readonly sign: ' ' | '-' | '+';
  readonly text: string;
}

/** Hunks of at most `around` unchanged lines about each change; an empty line of sign " " parts them. */
export function compareSources(before: string, after: string, around = 2): DiffLine[] {
  const lines: DiffLine[] = [];
  for (const part of diffLines(before, after)) {
    const sign = part.added ? '+' : part.removed ? '-' : ' ';
    for (const text of part.value.replace(/\n$/, '').split('\n')) lines.push({ sign, text: text.trimEnd() });
  }
  const near = new Set<number>();
  lines.forEach(({ sign }, index) => {
    if (sign === ' ') return;
    for (let i = index - around; i <= index + around; i += 1) near.add(i);
  });
  const out: DiffLine[] = [];
  let last = -1;
  lines.forEach((line, index) => {
    if (!near.has(index)) return;
    if (last >= 0 && index > last + 1) out.push({ sign: ' ', text: '' });
    out.push(line);
    last = index;
  });
  return out;
}
