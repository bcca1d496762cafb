/** The lists of links found in an import's pages, brought together while it is read. */
import { gatherMenus, signItems, withMark, type FoundMenu } from '@fastigium/core/menus';
import type { Queries } from '../../db/database.ts';
import { hashSha256 } from '../../threads/tasks.ts';

/** Each list is kept once, however many pages have it. */
export class FoundMenus {
  private readonly lists = new Map<string, { menu: FoundMenu; readonly pages: Set<string> }>();

  add(path: string, menus: readonly FoundMenu[]): void {
    for (const menu of menus) {
      const key = hashSha256(`${menu.way}\n${signItems(menu.items)}`);
      const known = this.lists.get(key);
      if (!known) this.lists.set(key, { menu, pages: new Set([path]) });
      else {
        known.pages.add(path);
        known.menu = withMark(known.menu, menu);
      }
    }
  }

  /** Tells the menus from the rest, and keeps them. @param pages of the import in all */
  async keep(queries: Queries, importId: string, pages: number): Promise<void> {
    const lists = [...this.lists.values()].map(({ menu, pages: on }) => ({ menu, pages: [...on].sort() }));
    // Batches come in any order; menus do not depend on it.
    lists.sort((a, b) => ((a.pages[0] ?? '') < (b.pages[0] ?? '') ? -1 : 1));
    const found = JSON.stringify(gatherMenus(lists, pages)).replaceAll('\\u0000', '');
    await queries.run(
      'insert into import_menus (import_id, found) values ($1, $2) on conflict (import_id) do update set found = $2',
      [importId, found],
    );
  }
}
