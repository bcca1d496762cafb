/** What a decision is about: two decisions about different things can both stand, whoever makes them first. */
import { settingKey } from '../head/index.ts';
import { touchIdentity } from '../touches/index.ts';
import type { Decision, RecordedDecision } from './decisions.ts';

/** What whole-site facts are about: everything. */
const ALL = '*';

/**
 * Keys of the things a decision sets. Two with a key in common speak of the same thing, and whoever made the later
 * one has to have seen the earlier one.
 *
 * @param history to find what an undo takes back
 */
export function subjectsOf(decision: Decision, history: readonly RecordedDecision[]): readonly string[] {
  switch (decision.kind) {
    case 'title':
      return [`title ${decision.page}`];
    case 'home':
      return ['home', `address ${decision.page}`];
    case 'address':
      return Object.keys(decision.addresses).map((page) => `address ${page}`);
    case 'place':
      return [`place ${decision.node}`, ...Object.keys(decision.addresses).map((page) => `address ${page}`)];
    case 'node-added':
      return [];
    case 'source':
      return [`source ${decision.page}`];
    case 'node-removed':
      return [`node ${decision.node}`];
    case 'ready':
      return [`ready ${decision.page}`];
    case 'in-menus':
      return [`in-menus ${decision.page}`];
    case 'address-style':
      return ['style'];
    case 'asset-added':
      return [`file ${decision.path}`];
    case 'touch':
      return [
        `touch ${touchIdentity(decision.touch) ?? JSON.stringify([decision.touch.kind, decision.touch.scope, 'place' in decision.touch ? decision.touch.place : null])}`,
      ];
    case 'touch-removed':
      return [`touch ${decision.of}`, ...subjectsOfStep(decision.of, history)];
    case 'menu':
    case 'menu-removed':
      return [`menu ${decision.menu}`];
    case 'listing':
    case 'listing-removed':
      return [`listing ${decision.page}`];
    case 'export-taken':
    case 'crawled':
      return [ALL];
    case 'head':
      return decision.settings.map((setting) =>
        setting.name === 'title' && setting.scope.kind === 'page'
          ? `title ${setting.scope.page}`
          : `head ${settingKey(setting)}`,
      );
    case 'icons':
      return ['icons'];
    case 'redirect':
      return [`redirect ${decision.redirect.from}`];
    case 'redirects':
      return [
        ...decision.redirects.map(({ from }) => `redirect ${from}`),
        ...decision.removed.map((from) => `redirect ${from}`),
        ...(decision.patterns ?? []).map(({ id }) => `pattern ${id}`),
      ];
    case 'redirect-removed':
      return [`redirect ${decision.from}`];
    case 'pattern':
    case 'pattern-removed':
      return [`pattern ${decision.id}`];
    case 'patterns-ordered':
      return ['patterns', ...decision.ids.map((id) => `pattern ${id}`)];
    case 'base-path':
      return ['base-path'];
    case 'removed':
      return removedSubjects(decision);
    case 'put-back':
      return [
        ...decision.things.map(({ of }) => `removal ${of}`),
        ...Object.keys(decision.addresses).map((page) => `address ${page}`),
        ...(decision.home ? ['home'] : []),
      ];
    case 'removals-held':
    case 'removals-freed':
      return decision.of.map((of) => `removal ${of}`);
    case 'swept':
      return [...decision.of.map((of) => `removal ${of}`), ...decision.redirects.map(({ from }) => `redirect ${from}`)];
    case 'entry':
      return [`entry ${decision.place ?? ''}`];
    case 'shown-instead':
      return ['shown-instead'];
    case 'last-day':
      return ['last-day'];
    case 'undo':
      return [`step ${decision.of}`, ...subjectsOfStep(decision.of, history)];
  }
}

function subjectsOfStep(seq: number, history: readonly RecordedDecision[]): readonly string[] {
  const step = history.find((recorded) => recorded.seq === seq);
  // An undo takes back what came before it, so this ends.
  return step
    ? [...subjectsOf(step.decision, history), ...(step.decision.kind === 'removed' ? [`removal ${seq}`] : [])]
    : [];
}

function removedSubjects({ thing, menu, home }: Extract<Decision, { kind: 'removed' }>): string[] {
  const own = home ? ['home'] : [];
  switch (thing.kind) {
    case 'nodes':
      return [...own, ...thing.nodes.map((node) => `node ${node}`)];
    case 'section':
      return [`section ${thing.page} ${JSON.stringify(thing.section)}`];
    case 'file':
      return [`file ${thing.path}`];
    case 'menu-item':
      return menu ? [`menu ${thing.menu}`] : [];
    case 'redirects':
      return [...thing.froms.map((from) => `redirect ${from}`), ...thing.patterns.map((id) => `pattern ${id}`)];
  }
}

/** The first of some decisions that speaks of the same thing as another one; undefined where that one can stand beside them all. */
export function conflictWith(
  decision: Decision,
  since: readonly RecordedDecision[],
  history: readonly RecordedDecision[],
): RecordedDecision | undefined {
  const own = new Set(subjectsOf(decision, history));
  return since.find((other) =>
    subjectsOf(other.decision, history).some((subject) => subject === ALL || own.has(subject) || own.has(ALL)),
  );
}
