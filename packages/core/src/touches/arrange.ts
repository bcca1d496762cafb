/** Sections in another order, or left out: pieces of the source change places, each with its own edits. */
import { findSectionNamed, findSections, type Edit, type PageDocument, type Section } from '../html/index.ts';
import type { SectionRef } from './touch.ts';

export interface Arrangement {
  /** What stands in the slots of the kept sections, in their order. */
  readonly kept: readonly Section[];
  readonly slots: readonly Section[];
  readonly out: readonly Section[];
  /** Named in the order, but not in the page. */
  readonly lost: readonly SectionRef[];
}

/** A section that the order does not name stays behind the one it follows in the source. @param removed left out as well */
export function arrangeSections(
  document: PageDocument,
  order: readonly (SectionRef & { readonly out?: true })[],
  removed: readonly SectionRef[] = [],
): Arrangement {
  const found = findSections(document);
  const same = (a: SectionRef) => (b: SectionRef) => a.name === b.name && a.nth === b.nth;
  const named = order.flatMap((ref) => {
    const section = found.find(same(ref));
    return section ? [{ section, out: ref.out === true }] : [];
  });
  const sequence = named.map(({ section }) => section);
  found.forEach((section, index) => {
    if (sequence.includes(section)) return;
    const before = found[index - 1];
    sequence.splice(before ? sequence.indexOf(before) + 1 : 0, 0, section);
  });
  const left = new Set([
    ...named.filter(({ out }) => out).map(({ section }) => section),
    ...found.filter((section) => removed.some(same(section))),
  ]);
  // One that begins with a lesser heading inside another is not moved, but can be out.
  const inner = [...order.filter(({ out }) => out), ...removed]
    .filter((ref) => !found.some(same(ref)))
    .flatMap((ref) => findSectionNamed(document, ref) ?? []);
  for (const section of inner)
    if (![...left].some(({ start, end }) => section.start >= start && section.end <= end)) left.add(section);
  return {
    kept: sequence.filter((section) => !left.has(section)),
    slots: found.filter((section) => !left.has(section)),
    out: [...left],
    lost: order.filter((ref) => !found.some(same(ref)) && !(ref.out && inner.some(same(ref)))),
  };
}

/** @param edits those of the page that do not overlap; the ones inside a section go along with it */
export function arrangeEdits(
  document: PageDocument,
  { kept, slots, out }: Arrangement,
  edits: readonly Edit[],
): Edit[] {
  const cuts = out.map((section): Edit => ({ ...withGapBefore(document, section), text: '' }));
  const isCut = ({ start, end }: Edit) => out.some((section) => start >= section.start && end <= section.end);
  // A cut inside a piece that changes places goes along with it.
  const rest = [...cuts, ...edits.filter((edit) => !isCut(edit))];
  const inside = (section: Section) => rest.filter(({ start, end }) => start >= section.start && end <= section.end);
  const ordered: Edit[] = [];
  const covered: Section[] = [];
  slots.forEach((slot, index) => {
    const piece = kept[index];
    if (!piece || piece === slot) return;
    ordered.push({
      start: slot.start,
      end: slot.end,
      text: { from: piece.start, to: piece.end, edits: inside(piece) },
    });
    covered.push(slot);
  });
  const isCovered = ({ start, end }: Edit) => covered.some((section) => start >= section.start && end <= section.end);
  return [...ordered, ...rest.filter((edit) => !isCovered(edit))];
}

function withGapBefore({ source: { text } }: PageDocument, { start, end }: Section): { start: number; end: number } {
  let from = start;
  while (from > 0 && /[ \t]/.test(text[from - 1] ?? '')) from -= 1;
  if (text[from - 1] === '\n') from -= text[from - 2] === '\r' ? 2 : 1;
  return { start: from, end };
}
