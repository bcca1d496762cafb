/** What an act has to do with, and the questions every one of them asks. */
import type { PageRow } from '../../../packages/contracts/src/api/draft.ts';
import { linksOf } from '../anchors.ts';
import { AS_IMPORTED, foldersOf, type CheckedSite, type Expected } from '../site.ts';
import { addressOf, isPage, letters } from '../source.ts';

export interface ActContext extends CheckedSite {
  /** Publishes the draft, with whatever holds it let be. */
  publish(): Promise<void>;
  readonly zip: (files: Readonly<Record<string, string | Uint8Array>>) => Promise<Uint8Array>;
}

/** What is wrong after an act, in words; a text alone where the site has nothing for it. */
export type Outcome = readonly string[] | string;

export interface Act {
  readonly name: string;
  run(site: ActContext): Promise<Outcome>;
}

export async function decide({ client, id }: CheckedSite, decision: object): Promise<{ made?: string }> {
  const { status, body } = await client.decide(id, decision);
  if (status !== 201) throw new Error(`${JSON.stringify(decision).slice(0, 200)} was answered ${JSON.stringify(body)}`);
  return body as { made?: string };
}

/** Runs an act, and takes back what it decided however it ended, so that the next one begins with the site as it was. */
export async function runAct(act: Act, site: ActContext): Promise<Outcome> {
  try {
    return await act.run(site);
  } finally {
    await takeAllBack(site);
  }
}

async function takeAllBack({ client, id }: CheckedSite): Promise<void> {
  for (;;) {
    const { status, body } = await client.decide(id, { kind: 'step', direction: 'back' });
    if (status === 201) continue;
    if ((body as { error?: { code?: string } }).error?.code === 'nothing-to-undo') return;
    throw new Error(`a step back was answered ${JSON.stringify(body)}`);
  }
}

export const pagesOf = ({ files }: CheckedSite): string[] => Object.keys(files).filter(isPage).sort();
export const rowAt = async ({ client, id }: CheckedSite, path: string): Promise<PageRow> => {
  const row = (await client.pages(id)).find(({ sourcePath }) => sourcePath === path);
  if (!row) throw new Error(`${path} is no page of the draft`);
  return row;
};

/** How often each address is led to from other pages, the most first. */
export function mostLinked(site: CheckedSite): string[] {
  const counts = new Map<string, number>();
  for (const path of pagesOf(site)) {
    for (const { to } of linksOf(letters(site.files[path] as Uint8Array), addressOf(path))) {
      const plain = to.replace(/[?#].*$/s, '');
      if (plain !== addressOf(path)) counts.set(plain, (counts.get(plain) ?? 0) + 1);
    }
  }
  return pagesOf(site)
    .filter((path) => addressOf(path) !== '/' && !/(^|\/)404\.html?$/.test(path))
    .sort((a, b) => (counts.get(addressOf(b)) ?? 0) - (counts.get(addressOf(a)) ?? 0));
}

/** Everything as it was but some pages that stand elsewhere. */
export function moved(site: CheckedSite, places: ReadonlyMap<string, string>, more: Partial<Expected> = {}): Expected {
  const byAddress = new Map([...places].map(([path, to]) => [addressOf(path), to]));
  const folders = foldersOf(site.files);
  return {
    ...AS_IMPORTED,
    ...more,
    addressOf: (path) => places.get(path) ?? addressOf(path),
    leadsOn: (address) => {
      const [, path = '', rest = ''] = /^([^?#]*)(.*)$/s.exec(address) ?? [];
      return (byAddress.get(path) ?? byAddress.get(folders.has(`${path}/`) ? `${path}/` : path) ?? path) + rest;
    },
  };
}
