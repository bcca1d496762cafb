import type { Check } from '../check.ts';

export const doubledTitle: Check = {
  code: 'title-doubled',
  severity: 'should',
  source: 'WCAG 2.2, 2.4.2; common practice',
};

export const doubledDescription: Check = {
  code: 'description-doubled',
  severity: 'should',
  source: 'common practice',
};

/** Values that more than one file has, with the files in order. Nothing is no value. */
export function findDoubled(values: Iterable<readonly [file: string, value: string]>): Map<string, string[]> {
  const byValue = new Map<string, string[]>();
  for (const [file, value] of values) if (value !== '') byValue.set(value, [...(byValue.get(value) ?? []), file]);
  return new Map([...byValue].filter(([, files]) => files.length > 1).map(([value, files]) => [value, files.sort()]));
}
