/** The seven bays of the frieze: what each says and how it stands. */
import type { Changes } from '@fastigium/contracts/api/releases';
import type { SiteOverview } from '@fastigium/contracts/api/sites';
import { formatDay } from './format.ts';
import type { Mark } from './marks.ts';
import { say } from './words.ts';
import { speak } from '../words/index.ts';

export type StationName = 'survey' | 'address' | 'pages' | 'metadata' | 'redirects' | 'publish' | 'watch';

export interface Bay {
  readonly station: StationName;
  readonly title: string;
  readonly words: string;
  readonly mark: Mark;
  /** Said to screen readers with the words; the mark alone says nothing. */
  readonly standing: string;
  readonly isOpen: boolean;
}

/** The letter after G that goes to a station. */
export const STATION_KEYS: Readonly<Record<StationName, string>> = {
  survey: 's',
  address: 'a',
  pages: 'g',
  metadata: 'm',
  redirects: 'r',
  publish: 'p',
  watch: 'w',
};

const LATER = {
  words: say('bays.notThereYet'),
  mark: 'dashed',
  standing: say('bays.notThereYet'),
  isOpen: false,
} as const;

export function deriveBays(site: SiteOverview, changes: Changes | undefined): Bay[] {
  const has = site.files > 0;
  return [
    { station: 'survey', title: say('bays.survey'), ...surveyBay(site), isOpen: true },
    { station: 'address', title: say('common.address'), ...deriveAddressBay(site), isOpen: true },
    { station: 'pages', title: say('common.pages'), ...(has ? derivePagesBay(site, changes) : LATER), isOpen: has },
    { station: 'metadata', title: say('bays.metadata'), ...(has ? deriveMetadataBay(site) : LATER), isOpen: has },
    { station: 'redirects', title: say('bays.redirects'), ...(has ? deriveRedirectsBay(site) : LATER), isOpen: has },
    { station: 'publish', title: say('bays.publish'), ...(has ? publishBay(site, changes) : LATER), isOpen: has },
    { station: 'watch', title: say('bays.watch'), ...watchBay(site), isOpen: site.live !== null },
  ];
}

type Standing = Pick<Bay, 'words' | 'mark' | 'standing'>;

/** Nothing is right as long as nobody has looked. */
const CHECKING: Standing = { words: say('bays.checking'), mark: 'ochre', standing: say('bays.beingChecked') };

function surveyBay(site: SiteOverview): Standing {
  const state = site.lastImport?.state;
  if (state === 'waiting' || state === 'reading')
    return { words: say('bays.reading'), mark: 'ochre', standing: say('bays.moving') };
  if (site.files === 0) {
    return state === 'failed'
      ? { words: say('bays.nothingCameIn'), mark: 'madder', standing: say('bays.mustBeFixed') }
      : { words: say('bays.bringInTheSite'), mark: 'dashed', standing: say('bays.notThereYet') };
  }
  if (state === 'reviewing')
    return { words: say('bays.newerExportToLookAt'), mark: 'ochre', standing: say('bays.notDoneYet') };
  if (site.snags.must > 0)
    return {
      words: say('bays.mustBeFixed2', { must: site.snags.must }),
      mark: 'madder',
      standing: say('bays.mustBeFixed'),
    };
  if (site.snags.checking) return CHECKING;
  if (site.snags.should > 0)
    return {
      words: say('bays.worthALook', { look: site.snags.should }),
      mark: 'ochre',
      standing: say('bays.worthALook2'),
    };
  return {
    words: say('bays.pagesFiles', { pages: site.pages, files: site.files }),
    mark: 'verdigris',
    standing: say('bays.right'),
  };
}

function deriveAddressBay({ address }: SiteOverview): Standing {
  if (!address) return { words: say('bays.noDomainYet'), mark: 'dashed', standing: say('bays.notThereYet') };
  const marks = {
    right: ['verdigris', say('bays.right')],
    moving: ['ochre', say('bays.moving')],
    broken: ['madder', say('bays.mustBeFixed')],
    waiting: ['ochre', say('bays.notDoneYet')],
  } as const;
  const [mark, standing] = marks[address.state];
  return { words: speak(address.words), mark, standing };
}

function derivePagesBay(site: SiteOverview, changes: Changes | undefined): Standing {
  const changed =
    changes?.sinceRelease == null
      ? 0
      : changes.changes.filter(({ group }) => group === 'pages' || group === 'addresses').length;
  if (site.homeTitle === null)
    return { words: say('bays.noHomePage'), mark: 'madder', standing: say('bays.mustBeFixed') };
  const away = site.removals.pages > 0 ? say('bays.removed', { pages: site.removals.pages }) : '';
  if (changed > 0)
    return { words: say('bays.changed', { changed, away }), mark: 'ochre', standing: say('bays.draftDiffersFromLive') };
  return {
    words: away === '' ? say('bays.home', { homeTitle: site.homeTitle }) : away.slice(2),
    mark: 'verdigris',
    standing: say('bays.right'),
  };
}

function deriveMetadataBay({ snags }: SiteOverview): Standing {
  if (snags.metadata === 0 && snags.checking) return CHECKING;
  return snags.metadata > 0
    ? { words: say('bays.worthALook3', { metadata: snags.metadata }), mark: 'ochre', standing: say('bays.worthALook2') }
    : { words: say('bays.nothingMissing'), mark: 'verdigris', standing: say('bays.right') };
}

function deriveRedirectsBay(site: SiteOverview): Standing {
  const open = site.oldAddresses - site.oldAddressesWithRule;
  if (site.oldAddresses === 0) {
    return site.redirects === 0
      ? { words: say('bays.noneYet'), mark: 'dashed', standing: say('bays.notThereYet') }
      : {
          words: say('bays.redirects2', { redirects: site.redirects }),
          mark: 'verdigris',
          standing: say('bays.right'),
        };
  }
  return open > 0
    ? { words: say('bays.toSettle', { open }), mark: 'ochre', standing: say('bays.notDoneYet') }
    : {
        words: say('bays.allSettled', { oldAddresses: site.oldAddresses }),
        mark: 'verdigris',
        standing: say('bays.right'),
      };
}

const ALERT_WORDS = {
  away: say('bays.theSiteIsAway'),
  drift: say('bays.hostGivesOtherwise'),
  certificate: say('bays.certificateRunsOut'),
  registration: say('bays.nameRunsOut'),
  'comes-down': say('bays.comesDownSoon'),
} as const;

function watchBay({ live, watch }: SiteOverview): Standing {
  if (live === null)
    return { words: say('bays.fromTheFirstReleaseOn'), mark: 'dashed', standing: say('bays.notThereYet') };
  const [alert] = watch.alerts;
  if (alert && alert.kind !== 'log' && alert.kind !== 'spike')
    return {
      words: ALERT_WORDS[alert.kind],
      mark: alert.weight === 'wrong' ? 'madder' : 'ochre',
      standing: alert.weight === 'wrong' ? say('bays.mustBeFixed') : say('bays.worthALook2'),
    };
  if (watch.problem) return { words: say('bays.accessLogNotRead'), mark: 'madder', standing: say('bays.mustBeFixed') };
  if (watch.lost > 0)
    return { words: say('bays.foundNothing', { lost: watch.lost }), mark: 'ochre', standing: say('bays.worthALook2') };
  return {
    words: watch.readAt === null ? say('bays.nobodyCountedYet') : say('bays.nothingLost'),
    mark: 'verdigris',
    standing: say('bays.right'),
  };
}

function publishBay(site: SiteOverview, changes: Changes | undefined): Standing {
  if (site.runningJobs.some(({ kind }) => kind === 'publish'))
    return { words: say('bays.publishing'), mark: 'ochre', standing: say('bays.moving') };
  if (site.live === null) return { words: say('common.notLiveYet'), mark: 'dashed', standing: say('bays.notThereYet') };
  if (site.live.downSince !== null)
    return {
      words: say('bays.downSince', { downSince: formatDay(site.live.downSince) }),
      mark: 'dashed',
      standing: say('bays.notThereAnyMore'),
    };
  if (changes === undefined)
    return { words: say('bays.release', { number: site.live.number }), mark: 'verdigris', standing: 'live' };
  const n = changes.changes.length;
  return n > 0
    ? { words: say('bays.changes', { n }), mark: 'ochre', standing: say('bays.draftDiffersFromLive') }
    : { words: say('bays.releaseIsLive', { number: site.live.number }), mark: 'verdigris', standing: 'live' };
}
