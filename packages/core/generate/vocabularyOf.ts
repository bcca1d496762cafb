/** Reads the vocabulary out of the declarations of schema-dts. */

export interface Vocabulary {
  /** The types each is a kind of. */
  readonly types: Readonly<Record<string, readonly string[]>>;
  /** The types each property may stand at, and those its values may have. */
  readonly properties: Readonly<Record<string, { readonly at: readonly string[]; readonly values: readonly string[] }>>;
  /** Members of enumerations by their type. */
  readonly members: Readonly<Record<string, readonly string[]>>;
}

export function vocabularyOf(source: string): Vocabulary {
  const types: Record<string, string[]> = {};
  const properties: Record<string, { at: string[]; values: string[] }> = {};
  const members: Record<string, string[]> = {};
  // `XBase` holds what X and all kinds of it have; `XLeaf` is X itself, of the nearest base.
  for (const [, name = '', parents = '', body = ''] of source.matchAll(
    /^interface (\w+)Base extends ([^{]+) \{\n([\s\S]*?)^\}/gm,
  )) {
    types[name] = basesIn(parents);
    for (const [, property = '', values = ''] of body.matchAll(/^ {4}"(\w+)"\?: SchemaValue<(.+), "\w+">;$/gm)) {
      const known = (properties[property] ??= { at: [], values: [] });
      known.at.push(name);
      known.values = [
        ...new Set([
          ...known.values,
          ...values
            .split('|')
            .map((each) => each.trim())
            .filter((each) => /^\w+$/.test(each) && each !== 'IdReference'),
        ]),
      ];
    }
  }
  for (const [, name = '', parents = ''] of source.matchAll(
    /^export (?:interface|type) (\w+)Leaf(?:<[^>]*>)?(?: extends| =) ([^{]+) [&{]/gm,
  )) {
    types[name] ??= basesIn(parents).filter((each) => each !== name);
  }
  for (const [, name = '', union = ''] of source.matchAll(/^export type (\w+) = ([^;]+);$/gm)) {
    const found = [...union.matchAll(/"https:\/\/schema\.org\/(\w+)"/g)].map(([, member = '']) => member);
    if (found.length > 0 && name !== 'Boolean') members[name] = found;
  }
  return { types: sorted(types), properties: sorted(properties), members: sorted(members) };
}

function basesIn(text: string): string[] {
  return [...text.matchAll(/\b(\w+)Base\b/g)].map(([, name = '']) => name);
}

function sorted<T>(record: Record<string, T>): Record<string, T> {
  return Object.fromEntries(Object.entries(record).sort(([a], [b]) => (a < b ? -1 : 1)));
}
