/**
 * What was set here for heads: for the site, a branch or a page. The nearest counts. A setting says a
 * text, or that nothing is to stand there, or only what becomes of what the page itself says.
 */
import type { Scope } from '../touches/index.ts';

/**
 * Names of lines, and of what is computed for lines:
 * `pattern` the form of titles; `name`, `tagline` of the site; `canonical`, `share`, `alternates`,
 * `breadcrumb`, `article`, `event` switched on by `on`; `organisation` and `data` hold JSON-LD; `code:head`
 * and `code:end` hold markup; `translates` names the page a page is a translation of (empty: of none).
 */
export type SettingName = string;

export interface HeadSetting {
  readonly scope: Scope;
  readonly name: SettingName;
  /** False: nothing stands there. Undefined: as it is from further away. */
  readonly text: string | false | undefined;
  /** What becomes of the page's own line: undefined means replaced by what is set for that very page, kept otherwise. */
  readonly own?: 'kept' | 'replaced' | undefined;
}

export type HeadSettings = ReadonlyMap<string, HeadSetting>;

/** One setting for each place and name. */
export function keySetting({ scope, name }: Pick<HeadSetting, 'scope' | 'name'>): string {
  return `${scope.kind === 'everywhere' ? 'everywhere' : `${scope.kind} ${scope.page}`} ${name}`;
}

export type SettingOrigin = 'site' | 'branch' | 'page';

export interface InForce {
  readonly text: string | false | undefined;
  readonly from: SettingOrigin | undefined;
  /** Whether the page's own line gives way. */
  readonly replacesOwn: boolean;
  /** Somebody said what becomes of the page's own line, so it is no conflict any more. */
  readonly isDecided: boolean;
}

const NOTHING: InForce = { text: undefined, from: undefined, replacesOwn: false, isDecided: false };

/** All settings by name, so that a page asks only for those there are. */
export class SettingIndex {
  private readonly byPlace: ReadonlyMap<string, HeadSetting>;
  readonly names: ReadonlySet<SettingName>;

  constructor(settings: HeadSettings) {
    this.byPlace = settings;
    this.names = new Set([...settings.values()].map(({ name }) => name));
  }

  /** Pages at which a branch with settings begins. */
  branchRoots(): string[] {
    return [
      ...new Set([...this.byPlace.values()].flatMap(({ scope }) => (scope.kind === 'branch' ? [scope.page] : []))),
    ];
  }

  /** @param branches pages at which branches begin that hold the page, the nearest first */
  inForce(name: SettingName, page: string, branches: readonly string[]): InForce {
    if (!this.names.has(name)) return NOTHING;
    let text: string | false | undefined;
    let from: SettingOrigin | undefined;
    let ownText: 'kept' | 'replaced' | undefined;
    for (const [origin, place] of [
      ['page', `page ${page}`],
      ...branches.map((id) => ['branch', `branch ${id}`]),
      ['site', 'everywhere'],
    ] as [SettingOrigin, string][]) {
      const setting = this.byPlace.get(`${place} ${name}`);
      if (!setting) continue;
      // The nearest one that says something about either counts for it.
      ownText ??= setting.own ?? (origin === 'page' && setting.text !== undefined ? 'replaced' : undefined);
      if (text === undefined && setting.text !== undefined) [text, from] = [setting.text, origin];
    }
    return { text, from, replacesOwn: ownText === 'replaced', isDecided: ownText !== undefined };
  }
}
