/** Touches: only where the place is there, only to what is there. */
import { decision as decided } from '@fastigium/contracts/messages/decision';
import { DomainError } from '@fastigium/contracts/errors';
import { where } from '@fastigium/contracts/messages/names';
import { touch as touched, type TouchMessage } from '@fastigium/contracts/messages/touch';
import { fold } from '@fastigium/core/html';
import type { Message } from '@fastigium/core/messages';
import { isOut, withRemoved } from '@fastigium/core/site';
import type { Scope, Touch } from '@fastigium/core/touches';
import { readPagesById } from '../pageFiles.ts';
import { keepTouchPlaces, type FoundPlaces } from '../touchPlaces.ts';
import { readName, requirePage, type Prepared, type Situation } from './situation.ts';
import { refuseNoListing } from './listings.ts';

export async function prepareTouch(situation: Situation, touch: Touch): Promise<Prepared> {
  await checkTargets(situation, touch);
  const scope = await describeScope(situation, touch.scope);
  const found = situation.places;
  if (!found) throw new Error('where a touch stands is looked up before it is decided');
  const places = found.reduce((sum, { page, places: here }) => sum + (isOut(situation.draft, page.id) ? 0 : here), 0);
  const isPicture = touch.kind === 'picture';
  // A picture may stand in style sheets alone; everything else needs a place in a page.
  if (places === 0 && !isPicture && touch.kind !== 'parts-out') throw new DomainError('touch-place-lost');
  await keepTouchPlaces(
    situation.tx,
    situation.site,
    situation.importId,
    situation.seq,
    isPicture ? await listPagesShowing(situation, touch, found) : found,
  );
  return {
    decision: { kind: 'touch', touch },
    message: decided('touched', { touch: describeTouch(touch), where: scope }),
  };
}

/** A picture may be a background or one of several sizes, which its places in `<img>` do not count: all pages that load it. */
async function listPagesShowing(
  situation: Situation,
  touch: Extract<Touch, { kind: 'picture' }>,
  found: readonly FoundPlaces[],
) {
  const rows = await situation.tx.many<{ id: string }>(
    `select f.page_id as id from file_reading r join source_file f using (import_id, path)
      where r.import_id = $1 and f.page_id is not null and r.targets && (select array_agg(path) from source_file where import_id = $1 and address = $2)`,
    [situation.importId, touch.from],
  );
  const known = new Set(found.map(({ page }) => page.id));
  const more = await readPagesById(
    situation.tx,
    situation.importId,
    withRemoved(situation.draft),
    rows.flatMap(({ id }) => (known.has(id) ? [] : [id])),
  );
  return [...found, ...[...more.values()].map((page) => ({ page, places: 1, changed: false }))];
}

async function checkTargets(situation: Situation, touch: Touch): Promise<void> {
  if (touch.scope.kind !== 'everywhere') await requirePage(situation, touch.scope.page);
  if (touch.kind === 'link' && touch.target?.kind === 'page') await requirePage(situation, touch.target.page);
  if (touch.kind === 'link' && touch.target) refuseNoListing(situation.draft, touch.target);
  const files =
    touch.kind === 'picture'
      ? [touch.to]
      : touch.kind === 'embed'
        ? [touch.file]
        : touch.kind === 'link' && touch.target?.kind === 'file'
          ? [touch.target.address]
          : [];
  for (const address of files)
    if (!(await hasFile(situation, address))) throw new DomainError('file-not-there', { address });
}

async function hasFile({ tx, importId, draft }: Situation, address: string): Promise<boolean> {
  const path = decodeURI(address).slice(1);
  if (draft.assets.has(path)) return true;
  return (
    (await tx.maybeOne('select 1 from source_file where import_id = $1 and address = $2', [importId, address])) !==
    undefined
  );
}

async function describeScope(situation: Situation, scope: Scope): Promise<Message> {
  if (scope.kind === 'everywhere') return where('everywhere');
  const page = await requirePage(situation, scope.page);
  return where(scope.kind === 'page' ? 'page-named' : 'branch-named', { name: await readName(situation, page) });
}

function shortenText(text: string): string {
  const folded = fold(text);
  return folded.length <= 60 ? folded : `${folded.slice(0, 57)} …`;
}

export function describeTouch(touch: Touch): TouchMessage {
  switch (touch.kind) {
    case 'text':
      return touched('text', { before: shortenText(touch.place.mark), after: shortenText(touch.to) });
    case 'attributes':
      return touched('attributes', {
        changes: Object.entries(touch.set).map(([name, value]) =>
          value === null
            ? touched('attribute-removed', { name })
            : touched('attribute-set', { name, value: shortenText(String(value)) }),
        ),
        element: touch.place.tag,
      });
    case 'link':
      return touch.target === undefined
        ? touched('link-window', { opens: touch.newWindow ? 'new' : 'same' })
        : touched('link-target', { link: shortenText(touch.place.mark.slice(touch.place.mark.indexOf(' ') + 1)) });
    case 'picture':
      return touched('picture', { before: touch.from, after: touch.to });
    case 'sections': {
      const out = touch.order.filter((section) => section.out);
      return out.length > 0
        ? touched('sections-out', {
            sections: out.map(({ name }) => touched('section-name', { name: shortenText(name) })),
          })
        : touched('sections-ordered');
    }
    case 'parts-out':
      return touch.parts.length === 0 ? touched('parts-in') : touched('parts-out', { parts: touch.parts });
    case 'css':
      return touched(touch.css.trim() === '' ? 'css-removed' : 'css-set');
    case 'embed':
      return touched('embed', { file: touch.file });
    case 'section':
      return touched('section-of-release', { section: shortenText(touch.name), release: touch.release });
    case 'head':
      return touch.line === 'language' ? touched('language', { language: touch.value }) : touched(touch.line);
  }
}

export function prepareTouchRemoved({ draft }: Situation, touchSeq: number): Prepared {
  const touch = draft.touches.get(touchSeq);
  if (!touch) throw new DomainError('not-found', { what: 'touch' });
  return {
    decision: { kind: 'touch-removed', of: touchSeq },
    message: decided('touch-removed', { touch: describeTouch(touch) }),
  };
}
