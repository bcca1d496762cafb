/**
 * The chain by which a visitor reaches a site: registration, name servers, records, certificate, host.
 * Each link is right, moving, broken, or waiting for one before it; the first that is not right is what
 * there is to do.
 */
import type { RecordRow, Spread } from '../dns/index.ts';
import { covers, countDaysLeft, renewAtMs } from './certificate.ts';
import type { Part } from '../messages/index.ts';
import { formatIsoDay } from './day.ts';
import { link, LINK_NAMES, meaning, type LinkMessage, type MeaningMessage } from './linkMessage.ts';

export type LinkState = 'right' | 'moving' | 'broken' | 'waiting';

export interface Link {
  readonly link: 'registration' | 'name-servers' | 'records' | 'certificate' | 'host';
  readonly state: LinkState;
  /** A few words under the link's name. */
  readonly words: LinkMessage;
  /** What it means for visitors, and what to do. */
  readonly meaning: MeaningMessage;
}

export interface SeenCertificate {
  readonly names: readonly string[];
  readonly issuer: string;
  readonly notBeforeMs: number;
  readonly notAfterMs: number;
  /** Whether a chain of signatures leads to a root that is trusted. */
  readonly trusted: boolean;
}

/** What the world answered, as far as it concerns the chain. */
export interface ChainFacts {
  readonly registration:
    | { readonly kind: 'held'; readonly expiresAtMs: number | undefined }
    | { readonly kind: 'free' }
    | { readonly kind: 'failed'; readonly reason: Part };
  readonly nameServers: readonly {
    readonly name: string;
    readonly serial: number | undefined;
    readonly reason: Part;
  }[];
  /** Undefined when no name server answered. */
  readonly rows: readonly RecordRow[] | undefined;
  readonly spread: Spread | undefined;
  readonly certificate:
    { readonly kind: 'served'; readonly seen: SeenCertificate } | { readonly kind: 'failed'; readonly reason: Part };
  readonly host:
    | {
        readonly kind: 'answered';
        readonly status: number;
        readonly ms: number;
        readonly location?: string | undefined;
      }
    | { readonly kind: 'failed'; readonly reason: Part };
  /** Every name of the domain that leads to the site. */
  readonly names: readonly string[];
  /** The site's main name, where this domain only sends its visitors there. */
  readonly sendsTo: string | undefined;
  /** Whether the host takes certificates from here; where it does not, it looks after its own. */
  readonly certificatesByUs: boolean;
  readonly nowMs: number;
}

/** Two months: time to find out who holds the account. Common practice, no source. */
const EXPIRES_SOON_MS = 60 * 86_400_000;

export function reckonChain(facts: ChainFacts): Link[] {
  const links = [
    judgeRegistration(facts),
    judgeNameServers(facts),
    judgeRecords(facts),
    judgeCertificate(facts),
    judgeHost(facts),
  ];
  // What hangs on a broken link cannot be right yet; saying so twice helps nobody.
  let held = false;
  return links.map((each) => {
    const waits = held && each.state === 'broken' && each.link !== 'host';
    if (each.state === 'broken') held = true;
    return waits
      ? { ...each, state: 'waiting', words: link('waits-for', { link: LINK_NAMES[findBefore(links)] }) }
      : each;
  });
}

/** Where none is broken nothing waits. */
const findBefore = (links: readonly Link[]): Link['link'] =>
  links.find(({ state }) => state === 'broken')?.link ?? 'registration';

export function findFirstBroken(links: readonly Link[]): Link['link'] | undefined {
  return (
    links.find(({ state }) => state === 'broken') ??
    links.find(({ state }) => state === 'moving' || state === 'waiting')
  )?.link;
}

function judgeRegistration({ registration: seen, nowMs }: ChainFacts): Link {
  const at = { link: 'registration' } as const;
  if (seen.kind === 'failed')
    return {
      ...at,
      state: 'moving',
      words: link('not-known'),
      meaning: meaning('registry-silent', { reason: seen.reason }),
    };
  if (seen.kind === 'free')
    return {
      ...at,
      state: 'broken',
      words: link('nobody-holds-it'),
      meaning: meaning('not-registered'),
    };
  if (seen.expiresAtMs === undefined)
    return {
      ...at,
      state: 'right',
      words: link('held'),
      meaning: meaning('registered-without-end'),
    };
  const words = link('held-until', { day: formatIsoDay(seen.expiresAtMs) });
  if (seen.expiresAtMs < nowMs)
    return {
      ...at,
      state: 'broken',
      words: link('ran-out', { day: formatIsoDay(seen.expiresAtMs) }),
      meaning: meaning('registration-over'),
    };
  if (seen.expiresAtMs - nowMs < EXPIRES_SOON_MS)
    return {
      ...at,
      state: 'moving',
      words,
      meaning: meaning('registration-ends-soon'),
    };
  return { ...at, state: 'right', words, meaning: meaning('registered') };
}

function judgeNameServers({ nameServers: servers }: ChainFacts): Link {
  const at = { link: 'name-servers' } as const;
  const answering = servers.filter(({ serial }) => serial !== undefined);
  if (servers.length === 0)
    return {
      ...at,
      state: 'broken',
      words: link('none-named'),
      meaning: meaning('no-name-servers'),
    };
  if (answering.length === 0)
    return {
      ...at,
      state: 'broken',
      words: link('none-answers'),
      meaning: meaning('name-servers-silent', { reason: servers[0]?.reason ?? '' }),
    };
  if (answering.length < servers.length) {
    const silent = servers.filter(({ serial }) => serial === undefined);
    return {
      ...at,
      state: 'moving',
      words: link('some-answer', { answering: answering.length, all: servers.length }),
      meaning: meaning('some-silent', {
        silent: silent.map(({ name, reason }) => meaning('server-silent', { name, reason })),
      }),
    };
  }
  const serials = new Set(answering.map(({ serial }) => serial));
  if (serials.size > 1)
    return {
      ...at,
      state: 'moving',
      words: link('they-differ'),
      meaning: meaning('zones-differ'),
    };
  return {
    ...at,
    state: 'right',
    words: link('answer-alike', { names: answering.map(({ name }) => name.split('.')[0] ?? '') }),
    meaning: meaning('zones-alike'),
  };
}

function judgeRecords({ rows, spread, nowMs }: ChainFacts): Link {
  const at = { link: 'records' } as const;
  if (!rows)
    return {
      ...at,
      state: 'broken',
      words: link('not-known'),
      meaning: meaning('records-not-known'),
    };
  const needed = rows.filter((row) => row.needed !== undefined);
  if (!needed.some(({ type }) => type !== 'CAA'))
    return {
      ...at,
      state: 'broken',
      words: link('host-not-known'),
      meaning: meaning('host-not-said'),
    };
  const wrong = needed.filter(({ state }) => state !== 'right');
  if (wrong.length > 0)
    return {
      ...at,
      state: 'broken',
      words: link('some-right', { right: needed.length - wrong.length, all: needed.length }),
      meaning: meaning('records-wrong'),
    };
  if (spread?.everyoneByMs !== undefined && spread.everyoneByMs > nowMs)
    return {
      ...at,
      state: 'moving',
      words: link('reaching-everyone'),
      meaning: meaning('records-spreading'),
    };
  return { ...at, state: 'right', words: link('all-right', { all: needed.length }), meaning: meaning('records-right') };
}

function judgeCertificate({ certificate: seen, names, certificatesByUs, nowMs }: ChainFacts): Link {
  const at = { link: 'certificate' } as const;
  if (seen.kind === 'failed') {
    return {
      ...at,
      state: 'broken',
      words: link('none-served'),
      meaning: meaning(certificatesByUs ? 'certificate-comes' : 'certificate-of-host', { reason: seen.reason }),
    };
  }
  const {
    seen: { names: covered, notBeforeMs, notAfterMs, trusted },
  } = seen;
  const left = countDaysLeft(notAfterMs, nowMs);
  if (notAfterMs <= nowMs)
    return {
      ...at,
      state: 'broken',
      words: link('ran-out', { day: formatIsoDay(notAfterMs) }),
      meaning: meaning('certificate-over'),
    };
  const uncovered = names.filter((name) => !covered.some((each) => covers(each, name)));
  if (uncovered.length > 0)
    return {
      ...at,
      state: 'broken',
      words: link('of-another-name'),
      meaning: meaning('certificate-of-others', { covered, uncovered }),
    };
  if (!trusted)
    return {
      ...at,
      state: 'broken',
      words: link('not-trusted'),
      meaning: meaning('certificate-not-trusted'),
    };
  if (renewAtMs(notBeforeMs, notAfterMs) < nowMs)
    return {
      ...at,
      state: 'moving',
      words: link('days-left', { days: Math.floor(left) }),
      meaning: meaning('certificate-due'),
    };
  return {
    ...at,
    state: 'right',
    words: link('days-left', { days: Math.floor(left) }),
    meaning: meaning('certificate-valid', { covered }),
  };
}

function judgeHost({ host: seen, sendsTo }: ChainFacts): Link {
  const at = { link: 'host' } as const;
  if (seen.kind === 'failed')
    return {
      ...at,
      state: 'broken',
      words: link('does-not-answer'),
      meaning: meaning('host-silent', { reason: seen.reason }),
    };
  if (seen.status >= 500)
    return {
      ...at,
      state: 'broken',
      words: link('answers-status', { status: String(seen.status) }),
      meaning: meaning('host-fails'),
    };
  if (sendsTo !== undefined) return judgeSending(seen.location, seen.ms, sendsTo);
  if (seen.status === 404)
    return {
      ...at,
      state: 'broken',
      words: link('nothing-published'),
      meaning: meaning('nothing-there'),
    };
  return { ...at, state: 'right', words: link('answers-in', { ms: seen.ms }), meaning: meaning('host-answers') };
}

/** Of a domain that only redirects, every answer but a redirect to the main name is a loss. */
function judgeSending(location: string | undefined, ms: number, main: string): Link {
  const at = { link: 'host' } as const;
  const there = /^https?:\/\/([^/:?#]+)/i.exec(location ?? '')?.[1]?.toLowerCase();
  if (there === main)
    return { ...at, state: 'right', words: link('leads-on-in', { ms }), meaning: meaning('sends-on', { main }) };
  return {
    ...at,
    state: 'broken',
    words: link(there === undefined ? 'leads-nowhere' : 'leads-elsewhere'),
    meaning: there === undefined ? meaning('sends-nowhere', { main }) : meaning('sends-elsewhere', { main, there }),
  };
}
