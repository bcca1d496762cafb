/** The registry by kinds of subtags, each with its first description. */
interface Entry {
  readonly Type: string;
  readonly Subtag?: string;
  readonly Tag?: string;
  readonly Description?: readonly string[];
}

export const KINDS = ['language', 'extlang', 'script', 'region', 'variant', 'grandfathered'] as const;
export type Register = Readonly<Record<(typeof KINDS)[number], Readonly<Record<string, string>>>>;

/** In lower case; ranges of private use are no subtags. */
export function registerOf(entries: readonly Entry[]): Register {
  const of = (kind: string) => Object.fromEntries(entries.flatMap(({ Type, Subtag, Tag, Description }) => {
    const name = (Subtag ?? Tag ?? '').toLowerCase();
    return Type === kind && name !== '' && !name.includes('..') ? [[name, Description?.[0] ?? name] as const] : [];
  }));
  return Object.fromEntries(KINDS.map((kind) => [kind, of(kind)])) as Register;
}
