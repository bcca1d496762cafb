/**
 * The chain by which a visitor reaches a site: registration, name servers, records, certificate, host.
 * Each link is right, moving, broken, or waiting for one before it; the first that is not right is what
 * there is to do.
 */
import type { RecordRow, Spread } from '../dns/index.ts';
import { covers, daysLeft, renewAtMs } from './certificate.ts';
import { day as date } from './day.ts';

export type LinkState = 'right' | 'moving' | 'broken' | 'waiting';

export interface Link {
  readonly link: 'registration' | 'name-servers' | 'records' | 'certificate' | 'host';
  readonly state: LinkState;
  /** A few words under the link's name. */
  readonly words: string;
  /** What it means for visitors, and what to do. */
  readonly meaning: string;
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
    | { readonly kind: 'failed'; readonly reason: string };
  readonly nameServers: readonly {
    readonly name: string;
    readonly serial: number | undefined;
    readonly reason: string;
  }[];
  /** Undefined when no name server answered. */
  readonly rows: readonly RecordRow[] | undefined;
  readonly spread: Spread | undefined;
  readonly certificate:
    { readonly kind: 'served'; readonly seen: SeenCertificate } | { readonly kind: 'failed'; readonly reason: string };
  readonly host:
    | {
        readonly kind: 'answered';
        readonly status: number;
        readonly ms: number;
        readonly location?: string | undefined;
      }
    | { readonly kind: 'failed'; readonly reason: string };
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
  const links = [registration(facts), nameServers(facts), records(facts), certificate(facts), host(facts)];
  // What hangs on a broken link cannot be right yet; saying so twice helps nobody.
  let held = false;
  return links.map((link) => {
    const waits = held && link.state === 'broken' && link.link !== 'host';
    if (link.state === 'broken') held = true;
    return waits ? { ...link, state: 'waiting', words: `waits for ${before(links)}` } : link;
  });
}

const before = (links: readonly Link[]): string =>
  (links.find(({ state }) => state === 'broken')?.link ?? 'the one before').replace('-', ' ');

export function firstBroken(links: readonly Link[]): Link['link'] | undefined {
  return (
    links.find(({ state }) => state === 'broken') ??
    links.find(({ state }) => state === 'moving' || state === 'waiting')
  )?.link;
}

function registration({ registration: seen, nowMs }: ChainFacts): Link {
  const link = 'registration' as const;
  if (seen.kind === 'failed')
    return {
      link,
      state: 'moving',
      words: 'not known',
      meaning: `The registry could not be asked: ${seen.reason}. Visitors notice nothing of that; it is asked again.`,
    };
  if (seen.kind === 'free')
    return {
      link,
      state: 'broken',
      words: 'nobody holds it',
      meaning: 'The name is not registered, so it leads nowhere. Register it, or look whether it is spelled right.',
    };
  if (seen.expiresAtMs === undefined)
    return {
      link,
      state: 'right',
      words: 'held',
      meaning: 'The name is registered. The registry does not say until when.',
    };
  const words = `held until ${date(seen.expiresAtMs)}`;
  if (seen.expiresAtMs < nowMs)
    return {
      link,
      state: 'broken',
      words: `ran out ${date(seen.expiresAtMs)}`,
      meaning: 'The registration has run out. Renew it at the registrar at once: soon somebody else may take the name.',
    };
  if (seen.expiresAtMs - nowMs < EXPIRES_SOON_MS)
    return {
      link,
      state: 'moving',
      words,
      meaning: 'The registration ends soon. Renew it at the registrar, or switch on renewal by itself there.',
    };
  return { link, state: 'right', words, meaning: 'The name is registered.' };
}

function nameServers({ nameServers: servers }: ChainFacts): Link {
  const link = 'name-servers' as const;
  const answering = servers.filter(({ serial }) => serial !== undefined);
  if (servers.length === 0)
    return {
      link,
      state: 'broken',
      words: 'none are named',
      meaning: 'The registry names no name servers for it. Enter those of the DNS provider at the registrar.',
    };
  if (answering.length === 0)
    return {
      link,
      state: 'broken',
      words: 'none answers',
      meaning: `No name server answers (${servers[0]?.reason}). Resolvers go on with what they remember until it runs out; then visitors find nothing. Ask the DNS provider.`,
    };
  if (answering.length < servers.length) {
    const silent = servers.filter(({ serial }) => serial === undefined);
    return {
      link,
      state: 'moving',
      words: `${answering.length} of ${servers.length} answer`,
      meaning: `${silent.map(({ name, reason }) => `${name}: ${reason}`).join('; ')}. Visitors get through, slower now and then.`,
    };
  }
  const serials = new Set(answering.map(({ serial }) => serial));
  if (serials.size > 1)
    return {
      link,
      state: 'moving',
      words: 'they differ',
      meaning:
        'The name servers do not have the same version of the zone yet. Some visitors get the old answer, some the new, until they agree.',
    };
  return {
    link,
    state: 'right',
    words: `${answering.map(({ name }) => name.split('.')[0]).join(', ')} answer alike`,
    meaning: 'All name servers answer, with the same version of the zone.',
  };
}

function records({ rows, spread, nowMs }: ChainFacts): Link {
  const link = 'records' as const;
  if (!rows)
    return {
      link,
      state: 'broken',
      words: 'not known',
      meaning: 'No name server answered, so nothing is known of the records.',
    };
  const needed = rows.filter((row) => row.needed !== undefined);
  if (!needed.some(({ type }) => type !== 'CAA'))
    return {
      link,
      state: 'broken',
      words: 'host not known',
      meaning:
        'Nobody has said where the host answers, so it is not known what the records should be. Say it under Host. Nothing that stands there is touched.',
    };
  const wrong = needed.filter(({ state }) => state !== 'right');
  if (wrong.length > 0)
    return {
      link,
      state: 'broken',
      words: `${needed.length - wrong.length} of ${needed.length} right`,
      meaning: 'Visitors who type the name do not reach the new host yet.',
    };
  if (spread?.everyoneByMs !== undefined && spread.everyoneByMs > nowMs)
    return {
      link,
      state: 'moving',
      words: 'reaching everyone',
      meaning:
        'The records are right at the name servers. Resolvers still hand out the old answer until it runs out. Nothing needs republishing.',
    };
  return { link, state: 'right', words: `all ${needed.length} right`, meaning: 'The name leads to the host.' };
}

function certificate({ certificate: seen, names, certificatesByUs, nowMs }: ChainFacts): Link {
  const link = 'certificate' as const;
  if (seen.kind === 'failed') {
    return {
      link,
      state: 'broken',
      words: 'none served',
      meaning: certificatesByUs
        ? `https is not answered (${seen.reason}). A certificate is ordered by itself as soon as the records are right.`
        : `https is not answered (${seen.reason}). This host looks after its own certificate; set it up there.`,
    };
  }
  const {
    seen: { names: covered, notBeforeMs, notAfterMs, trusted },
  } = seen;
  const left = daysLeft(notAfterMs, nowMs);
  if (notAfterMs <= nowMs)
    return {
      link,
      state: 'broken',
      words: `ran out ${date(notAfterMs)}`,
      meaning: 'The certificate has run out: browsers warn every visitor off. Order a new one.',
    };
  const uncovered = names.filter((name) => !covered.some((each) => covers(each, name)));
  if (uncovered.length > 0)
    return {
      link,
      state: 'broken',
      words: 'another name’s',
      meaning: `The certificate is for ${covered.join(', ')}, not for ${uncovered.join(', ')}: browsers warn visitors off. One for these names is needed.`,
    };
  if (!trusted)
    return {
      link,
      state: 'broken',
      words: 'not trusted',
      meaning:
        'No chain of signatures leads from the certificate to an authority that browsers trust: they warn visitors off.',
    };
  if (renewAtMs(notBeforeMs, notAfterMs) < nowMs)
    return {
      link,
      state: 'moving',
      words: `${Math.floor(left)} days left`,
      meaning: 'The certificate is due to be renewed. That happens by itself; visitors notice nothing.',
    };
  return {
    link,
    state: 'right',
    words: `${Math.floor(left)} days left`,
    meaning: `Valid for ${covered.join(', ')}. It renews itself.`,
  };
}

function host({ host: seen, sendsTo }: ChainFacts): Link {
  const link = 'host' as const;
  if (seen.kind === 'failed')
    return {
      link,
      state: 'broken',
      words: 'does not answer',
      meaning: `The host does not answer (${seen.reason}). Visitors see an error of their browser.`,
    };
  if (seen.status >= 500)
    return {
      link,
      state: 'broken',
      words: `answers ${seen.status}`,
      meaning: 'The host answers with an error of its own. Ask whoever runs it.',
    };
  if (sendsTo !== undefined) return sending(seen.location, seen.ms, sendsTo);
  if (seen.status === 404)
    return {
      link,
      state: 'broken',
      words: 'nothing published',
      meaning: 'The host answers, but there is no page there. Publish a release.',
    };
  return { link, state: 'right', words: `answers in ${seen.ms} ms`, meaning: 'The host answers with the site.' };
}

/** Of a domain that only redirects, every answer but a redirect to the main name is a loss. */
function sending(location: string | undefined, ms: number, main: string): Link {
  const link = 'host' as const;
  const there = /^https?:\/\/([^/:?#]+)/i.exec(location ?? '')?.[1]?.toLowerCase();
  if (there === main)
    return { link, state: 'right', words: `leads on in ${ms} ms`, meaning: `The host sends visitors on to ${main}.` };
  return {
    link,
    state: 'broken',
    words: there === undefined ? 'leads nowhere' : 'leads elsewhere',
    meaning: `The host does not send visitors on to ${main}${there === undefined ? '' : ` but to ${there}`}. Visitors of this domain do not find the site; set the redirect up at the host.`,
  };
}
