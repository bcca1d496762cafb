/** How a page stands, in a few words and a mark. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import type { Mark } from '../../logic/marks.ts';
import { sayMenuPlace } from '../../words/index.ts';
import { say } from './words.ts';

export function markOf(page: PageRow): Mark {
  if (page.isHome) return 'lapis';
  if (!page.isReady) return 'dashed';
  return page.state === 'live' ? 'verdigris' : 'ochre';
}

const date = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' });

/** Where visitors come across it, and what differs from live. */
export function sayWhereItShows(page: PageRow, isLive: boolean): { readonly words: string; readonly wrong: boolean } {
  if (page.kind === 'group') return { words: say('page.group'), wrong: false };
  if (page.kind === 'link') return { words: say('page.leadsOutside'), wrong: false };
  if (!page.isReady) return { words: say('page.notReadyStaysOut'), wrong: false };
  const parts: string[] = [];
  if (page.isHome) parts.push(say('page.home'));
  if (/(^|\/)404\.html$/.test(page.sourcePath)) parts.push(say('page.whereNothingIsFound'));
  if (page.lists !== null) parts.push(say('page.listsEntries', { lists: page.lists }));
  else if (page.date !== null)
    parts.push(say('page.dated', { value: date.format(new Date(`${page.date}T00:00:00Z`)) }));
  if (page.menus.length > 0)
    parts.push(
      page.menus
        .map((menu) => sayMenuPlace(menu).toLowerCase())
        .filter((name, index, all) => all.indexOf(name) === index)
        .join(', '),
    );
  if (!page.inMenus) parts.push(say('page.leftOutOfMenus'));
  if (page.touches > 0) parts.push(say('page.touches', { touches: page.touches }));
  if (isLive && page.state !== 'live') parts.push(page.state === 'new' ? say('page.isNew') : say('page.isChanged'));
  const isLost = page.lists !== null && page.menus.length === 0;
  return { words: isLost ? say('page.inNoMenu', { parts: parts.join(', ') }) : parts.join(', '), wrong: isLost };
}
