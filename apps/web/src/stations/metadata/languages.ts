/** Pages in rows by what they are in other languages. */
import type { Metadata, MetadataRow } from '@fastigium/contracts/api/metadata';

export interface TranslationRow {
  readonly key: string;
  readonly pages: ReadonlyMap<string, MetadataRow>;
}

/** Groups first as their first pages stand in the tree, and pages that stand alone between them. */
export function groupTranslations({ rows, groups }: Pick<Metadata, 'rows' | 'groups'>): TranslationRow[] {
  const byId = new Map(rows.map((row) => [row.id, row]));
  const groupOf = new Map(groups.flatMap((group) => group.map(({ id }) => [id, group] as const)));
  const done = new Set<string>();
  const out: TranslationRow[] = [];
  for (const row of rows) {
    if (done.has(row.id) || row.language.text === '') continue;
    const group = groupOf.get(row.id) ?? [{ id: row.id, language: row.language.text }];
    const pages = new Map<string, MetadataRow>();
    for (const { id, language } of group) {
      const page = byId.get(id);
      done.add(id);
      if (page) pages.set(language, page);
    }
    out.push({ key: row.id, pages });
  }
  return out;
}

const names = new Intl.DisplayNames(['en'], { type: 'language', fallback: 'code' });

/** In English; the tag itself where nobody knows it. */
export function nameLanguage(tag: string): string {
  try {
    return names.of(tag) ?? tag;
  } catch {
    return tag;
  }
}
