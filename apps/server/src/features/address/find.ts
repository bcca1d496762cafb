/** Finding a name: the one typed under every ending sold, and names near it, each asked of the registry. */
import type { FoundName } from '@fastigium/contracts/api/address';
import { DomainError } from '@fastigium/contracts/errors';
import { reason } from '@fastigium/contracts/messages/reason';
import { nameFound } from '@fastigium/contracts/messages/address';
import type { RegistrarPort } from '@fastigium/contracts/ports/registrar';
import {
  proposeAlternativeWords,
  COST_YEARS,
  reckonCost,
  splitName,
  formatReadableName,
  scoreName,
  findWordsOfSite,
} from '@fastigium/core/domain';
import type { Deps } from '../../deps.ts';
import { foldDraftAt, readHistory } from '../draft/history.ts';
import { connectDomain, listEndingsSold, readName } from './domain.ts';
import { keepUpdateKey } from './zone.ts';
import { lookUpNow } from './lookUpNow.ts';
import { describeReason } from './reason.ts';

/** Questions to a registry at once; more would be impolite. */
const AT_ONCE = 8;
const MOST_ALTERNATIVES = 8;

export async function readSiteWords(deps: Deps, site: string): Promise<string[]> {
  const { name, importId, version } = await deps.db.one<{ name: string; importId: string | null; version: number }>(
    'select name, current_import as "importId", version from site where id = $1',
    [site],
  );
  if (importId === null) return findWordsOfSite(name, []);
  const titles = await deps.db.many<{ id: string; title: string | null }>(
    'select f.page_id as id, r.title from source_file f join file_reading r using (import_id, path) where f.import_id = $1 and f.page_id is not null limit 500',
    [importId],
  );
  const draft = foldDraftAt(await readHistory(deps.db, site), version);
  return findWordsOfSite(
    name,
    titles.map(({ id, title }) => draft.titles.get(id) ?? title ?? ''),
  );
}

export async function findNames(
  deps: Deps,
  site: string,
  query: string,
): Promise<{ siteWords: string[]; names: FoundName[] }> {
  const registrar = deps.world.registrar;
  if (!registrar) throw new DomainError('registrar-unreachable', { detail: reason('no-registrar') });
  const prices = await registrar.prices();
  const endings = Object.keys(prices);
  const words = await readSiteWords(deps, site);
  // A bare word is looked for under every ending; a whole name first under its own.
  const { zone: typed } = readName(query.includes('.') ? query : `${query}.${endings[0]}`, endings);
  const { word, ending } = splitName(typed, endings);
  const asked = [typed, ...endings.map((ending) => `${word}.${ending}`)];
  const alternatives = proposeAlternativeWords(formatReadableName(word), words).flatMap((each) =>
    endings[0] === undefined ? [] : [`${each}.${endings.includes(ending) ? ending : endings[0]}`],
  );
  const names = [...new Set([...asked, ...alternatives.slice(0, MOST_ALTERNATIVES)])];
  const found: FoundName[] = new Array<FoundName>(names.length);
  const queue = names.entries();
  await Promise.all(
    Array.from({ length: Math.min(AT_ONCE, names.length) }, async () => {
      for (const [index, name] of queue)
        found[index] = await describe(registrar, prices, name, words, {
          asked: name === typed && query.includes('.'),
          alternative: index >= new Set(asked).size,
        });
    }),
  );
  return { siteWords: words, names: found };
}

async function describe(
  registrar: RegistrarPort,
  prices: Awaited<ReturnType<RegistrarPort['prices']>>,
  name: string,
  words: readonly string[],
  { asked, alternative }: { asked: boolean; alternative: boolean },
): Promise<FoundName> {
  const { ending, word } = splitName(name, Object.keys(prices));
  const price = prices[ending];
  const score = scoreName(formatReadableName(word), words, ending);
  const base = {
    name,
    unicode: formatReadableName(name),
    asked,
    alternative,
    score: { points: score.points, reasons: [...score.reasons] },
    currency: price?.currency ?? null,
  };
  const costs = (privacy: boolean) => (price ? COST_YEARS.map((years) => reckonCost(price, years, privacy)) : []);
  try {
    const registration = await registrar.registration(name);
    if (registration.kind === 'held')
      return {
        ...base,
        state: 'taken',
        words:
          registration.expiresAt === null
            ? nameFound('held')
            : nameFound('held-until', { day: registration.expiresAt.slice(0, 10) }),
        costs: [],
        costsWithPrivacy: [],
      };
    if (!price)
      return {
        ...base,
        state: 'unknown',
        words: nameFound('not-sold'),
        costs: [],
        costsWithPrivacy: [],
      };
    return { ...base, state: 'free', words: nameFound('free'), costs: costs(false), costsWithPrivacy: costs(true) };
  } catch (error) {
    if (!(error instanceof DomainError)) throw error;
    return {
      ...base,
      state: 'unknown',
      words: nameFound('registry-silent', { reason: describeReason(error) }),
      costs: [],
      costsWithPrivacy: [],
    };
  }
}

export async function registerName(
  deps: Deps,
  site: string,
  by: string,
  order: { name: string; years: number; privacy: boolean },
): Promise<void> {
  const registrar = deps.world.registrar;
  if (!registrar) throw new DomainError('registrar-unreachable', { detail: reason('no-registrar') });
  const { zone: name } = readName(order.name, await listEndingsSold(deps));
  const taken = await deps.db.maybeOne('select 1 from domain where name = $1 and site_id <> $2', [name, site]);
  if (taken) throw new DomainError('name-elsewhere', { name });
  if ((await registrar.registration(name)).kind === 'held')
    throw new DomainError('name-not-for-sale', { name, reason: reason('somebody-holds-it') });
  await registrar.register({ ...order, name });
  await connectDomain(deps, site, by, name);
  await useAccount(deps, site, name);
}

/** A name in the registrar's account comes with a key for updates and needs no setting up. */
export async function useAccount(deps: Deps, site: string, zone: string): Promise<void> {
  const holding = await deps.world.registrar?.holding(zone).catch(() => undefined);
  const [server] = holding?.nameServers ?? [];
  if (holding?.updateKey && server !== undefined) {
    const [resolver] = deps.world.resolvers;
    const answer = resolver && (await deps.world.dns.resolver(resolver.endpoint, { name: server, type: 'A' }));
    const address = answer?.ok === true ? answer.reply.answers.find(({ type }) => type === 'A')?.data : undefined;
    if (address !== undefined)
      await keepUpdateKey(deps, site, {
        server: `${address}:53`,
        keyName: holding.updateKey.name,
        algorithm: 'hmac-sha256',
        secret: holding.updateKey.secret,
      });
  }
  await lookUpNow(deps, site);
}
