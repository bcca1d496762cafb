/** Decisions in short, for tests. */
import { emptyDraft, foldDecisions, type Decision, type Draft } from './index.ts';

export const recorded = (decisions: readonly Decision[]) =>
  decisions.map((decision, at) => ({ seq: at + 1, decision }));
export const fold = (...decisions: Decision[]) => foldDecisions(recorded(decisions));
export const top = { parent: null, after: null };
export const undo = (seq: number): Decision => ({ kind: 'undo', of: seq });
export const page = (id: string, more: object = {}): Decision => ({
  kind: 'node-added',
  node: { kind: 'page', id, hash: `hash ${id}`, sizeBytes: 3, writtenAt: 'a/index.html', address: `/${id}/`, ...more },
  place: top,
});
export const removal = (
  thing: Extract<Decision, { kind: 'removed' }>['thing'],
  more: Partial<Extract<Decision, { kind: 'removed' }>> = {},
): Decision => ({ kind: 'removed', thing, atMs: 5, why: 'old', standIn: { kind: 'gone' }, links: 'kept', ...more });
export const backAgain = (
  things: { of: number; nodes?: string[] }[],
  more: Partial<Extract<Decision, { kind: 'put-back' }>> = {},
): Decision => ({ kind: 'put-back', things, places: [], addresses: {}, unsettled: [], ...more });
export const redirect = (from: string, to = '/x/'): Decision => ({
  kind: 'redirect',
  redirect: { from, status: 301, target: { kind: 'url', url: `https://lanternmoor.example${to}` } },
});
export const pattern = (id: string, from = `/${id}/*`): Decision =>
  ({ kind: 'pattern', id, pattern: { from, status: 301 } }) as unknown as Decision;
export const setting = (name: string, more: object) =>
  ({ name, scope: { kind: 'page', page: 'a' }, ...more }) as unknown as Extract<
    Decision,
    { kind: 'head' }
  >['settings'][0];
export const head = (...settings: ReturnType<typeof setting>[]): Decision => ({ kind: 'head', settings });
export const text = (mark: string, to: string, scope: object = { kind: 'page', page: 'a' }): Decision =>
  ({
    kind: 'touch',
    touch: { kind: 'text', scope, to, place: { tag: 'p', what: 'text', mark, nth: 0, under: '', way: '' } },
  }) as Decision;

/** What differs from a draft without decisions. */
export function differs(draft: Draft): Partial<Record<keyof Draft, unknown>> {
  return Object.fromEntries(
    Object.entries(draft)
      .filter(
        ([key, value]) =>
          JSON.stringify(makePlain(value)) !== JSON.stringify(makePlain(emptyDraft[key as keyof Draft])),
      )
      .map(([key, value]) => [key, makePlain(value)]),
  );
}
const makePlain = (value: unknown): unknown =>
  value instanceof Map
    ? [...value].map(([key, each]) => [key, makePlain(each)])
    : value instanceof Set
      ? [...value]
      : value;
