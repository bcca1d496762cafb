/** The registry as what there is of each kind: subtags of one length written one behind the other, which is a quarter of the size of a list. */
interface Entry {
  readonly Type: string;
  readonly Subtag?: string;
  readonly Tag?: string;
}

export const KINDS = ['language', 'extlang', 'script', 'region', 'variant', 'grandfathered'] as const;
/** By kind, then by length in letters. */
export type Register = Readonly<Record<(typeof KINDS)[number], Readonly<Record<string, string>>>>;

/** In lower case; ranges of private use are no subtags. */
export function registerOf(entries: readonly Entry[]): Register {
  const of = (kind: string) => {
    const out: Record<string, string> = {};
    for (const { Type, Subtag, Tag } of entries) {
      const name = (Subtag ?? Tag ?? '').toLowerCase();
      if (Type === kind && name !== '' && !name.includes('..')) out[name.length] = (out[name.length] ?? '') + name;
    }
    return out;
  };
  return Object.fromEntries(KINDS.map((kind) => [kind, of(kind)])) as Register;
}
