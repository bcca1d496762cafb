/** The seven bays of the frieze: what each says and how it stands. */
import type { Changes } from '@fastigium/contracts/api/releases';
import type { SiteOverview } from '@fastigium/contracts/api/sites';
import { count, dayInWords, figure } from './format.ts';
import type { Mark } from './marks.ts';

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

const LATER = { words: 'not there yet', mark: 'dashed', standing: 'not there yet', isOpen: false } as const;

export function baysOf(site: SiteOverview, changes: Changes | undefined): Bay[] {
  const has = site.files > 0;
  return [
    { station: 'survey', title: 'Survey', ...surveyBay(site), isOpen: true },
    { station: 'address', title: 'Address', ...addressBay(site), isOpen: true },
    { station: 'pages', title: 'Pages', ...(has ? pagesBay(site, changes) : LATER), isOpen: has },
    { station: 'metadata', title: 'Metadata', ...(has ? metadataBay(site) : LATER), isOpen: has },
    { station: 'redirects', title: 'Redirects', ...(has ? redirectsBay(site) : LATER), isOpen: has },
    { station: 'publish', title: 'Publish', ...(has ? publishBay(site, changes) : LATER), isOpen: has },
    { station: 'watch', title: 'Watch', ...watchBay(site), isOpen: site.live !== null },
  ];
}

type Standing = Pick<Bay, 'words' | 'mark' | 'standing'>;

/** Nothing is right as long as nobody has looked. */
const CHECKING: Standing = { words: 'checking …', mark: 'ochre', standing: 'being checked' };

function surveyBay(site: SiteOverview): Standing {
  const state = site.lastImport?.state;
  if (state === 'waiting' || state === 'reading') return { words: 'reading …', mark: 'ochre', standing: 'moving' };
  if (site.files === 0) {
    return state === 'failed'
      ? { words: 'nothing came in', mark: 'madder', standing: 'must be fixed' }
      : { words: 'bring in the site', mark: 'dashed', standing: 'not there yet' };
  }
  if (state === 'reviewing') return { words: 'newer export to look at', mark: 'ochre', standing: 'not done yet' };
  if (site.snags.must > 0)
    return { words: `${figure(site.snags.must)} must be fixed`, mark: 'madder', standing: 'must be fixed' };
  if (site.snags.checking) return CHECKING;
  if (site.snags.look > 0)
    return { words: `${figure(site.snags.look)} worth a look`, mark: 'ochre', standing: 'worth a look' };
  return { words: `${count(site.pages, 'page')}, ${count(site.files, 'file')}`, mark: 'verdigris', standing: 'right' };
}

function addressBay({ address }: SiteOverview): Standing {
  if (!address) return { words: 'no domain yet', mark: 'dashed', standing: 'not there yet' };
  const marks = {
    right: ['verdigris', 'right'],
    moving: ['ochre', 'moving'],
    broken: ['madder', 'must be fixed'],
    waiting: ['ochre', 'not done yet'],
  } as const;
  const [mark, standing] = marks[address.state];
  return { words: address.words, mark, standing };
}

function pagesBay(site: SiteOverview, changes: Changes | undefined): Standing {
  const changed =
    changes?.sinceRelease == null
      ? 0
      : changes.changes.filter(({ group }) => group === 'pages' || group === 'addresses').length;
  if (site.homeTitle === null) return { words: 'no home page', mark: 'madder', standing: 'must be fixed' };
  const away = site.removals.pages > 0 ? `, ${figure(site.removals.pages)} removed` : '';
  if (changed > 0)
    return { words: `${figure(changed)} changed${away}`, mark: 'ochre', standing: 'draft differs from live' };
  return { words: away === '' ? `home: ${site.homeTitle}` : away.slice(2), mark: 'verdigris', standing: 'right' };
}

function metadataBay({ snags }: SiteOverview): Standing {
  if (snags.metadata === 0 && snags.checking) return CHECKING;
  return snags.metadata > 0
    ? { words: `${figure(snags.metadata)} worth a look`, mark: 'ochre', standing: 'worth a look' }
    : { words: 'nothing missing', mark: 'verdigris', standing: 'right' };
}

function redirectsBay(site: SiteOverview): Standing {
  const open = site.oldAddresses - site.oldAddressesWithRule;
  if (site.oldAddresses === 0) {
    return site.redirects === 0
      ? { words: 'none yet', mark: 'dashed', standing: 'not there yet' }
      : { words: count(site.redirects, 'redirect'), mark: 'verdigris', standing: 'right' };
  }
  return open > 0
    ? { words: `${figure(open)} to settle`, mark: 'ochre', standing: 'not done yet' }
    : { words: `all ${figure(site.oldAddresses)} settled`, mark: 'verdigris', standing: 'right' };
}

const ALERT_WORDS = {
  away: 'the site is away',
  drift: 'host gives otherwise',
  certificate: 'certificate runs out',
  registration: 'name runs out',
  'comes-down': 'comes down soon',
} as const;

function watchBay({ live, watch }: SiteOverview): Standing {
  if (live === null) return { words: 'from the first release on', mark: 'dashed', standing: 'not there yet' };
  const [alert] = watch.alerts;
  if (alert && alert.kind !== 'log' && alert.kind !== 'spike')
    return {
      words: ALERT_WORDS[alert.kind],
      mark: alert.weight === 'wrong' ? 'madder' : 'ochre',
      standing: alert.weight === 'wrong' ? 'must be fixed' : 'worth a look',
    };
  if (watch.problem) return { words: 'access log not read', mark: 'madder', standing: 'must be fixed' };
  if (watch.lost > 0) return { words: `${figure(watch.lost)} found nothing`, mark: 'ochre', standing: 'worth a look' };
  return { words: watch.readAt === null ? 'nobody counted yet' : 'nothing lost', mark: 'verdigris', standing: 'right' };
}

function publishBay(site: SiteOverview, changes: Changes | undefined): Standing {
  if (site.runningJobs.some(({ kind }) => kind === 'publish'))
    return { words: 'publishing …', mark: 'ochre', standing: 'moving' };
  if (site.live === null) return { words: 'not live yet', mark: 'dashed', standing: 'not there yet' };
  if (site.live.downSince !== null)
    return { words: `down since ${dayInWords(site.live.downSince)}`, mark: 'dashed', standing: 'not there any more' };
  if (changes === undefined) return { words: `release ${site.live.number}`, mark: 'verdigris', standing: 'live' };
  const n = changes.changes.length;
  return n > 0
    ? { words: count(n, 'change'), mark: 'ochre', standing: 'draft differs from live' }
    : { words: `release ${site.live.number} is live`, mark: 'verdigris', standing: 'live' };
}
