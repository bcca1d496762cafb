/** Ordering a certificate: tested first, proved by http-01 at the host, put in place, looked at from outside. */
import { progressStep } from '@fastigium/contracts/messages/progress';
import { randomBytes, X509Certificate } from 'node:crypto';
import { DomainError } from '@fastigium/contracts/errors';
import { reason } from '@fastigium/contracts/messages/reason';
import { judgeCaa, type DomainName } from '@fastigium/core/dns';
import { covers, retryAfterMs } from '@fastigium/core/reach';
import { z } from 'zod';
import type { AcmePort } from '../../adapters/acme/acme.ts';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import { describeError, type JobHandler, type JobRun } from '../../jobs/queue.ts';
import { readLatestLookup } from './history.ts';
import { lookUpNow } from './lookUpNow.ts';
import { listHostNames, readSiteAddress, type SiteAddress, type ZoneNames } from '../shared/siteAddress.ts';
import { reckonRecords } from './reckoned.ts';
import { readResolvers, readSiteHost, type SiteHost } from './siteHost.ts';

const CHALLENGE_PATH = '/.well-known/acme-challenge/';

export function createCertificateJob(deps: Deps): JobHandler {
  return {
    async run(job) {
      const { acme } = deps.world;
      const address = await readSiteAddress(deps.db, job.site);
      const zone = address?.zones.find((each) => each.zone === readZone(job));
      if (!address || !zone) throw new DomainError('no-domain');
      const host = await readSiteHost(deps, deps.db, job.site);
      if (!acme || !host.port.naming) throw new DomainError('host-offers-no-names');
      const { hostName } = await deps.db.one<{ hostName: string }>(
        'select host_name as "hostName" from site where id = $1',
        [job.site],
      );
      await host.port.naming.setNames(hostName, listHostNames(address));
      await testChallengeFirst(deps, job, acme, zone, host, hostName);
      const issued = await acme.order({
        names: zone.names,
        accountKey: await readAccountKey(deps, acme),
        signal: job.signal,
        onStep: (step) => job.report({ step, done: 0, total: 0, unit: 'names' }),
        answer: (token, keyAuthorization) => host.port.challenge(hostName, token, keyAuthorization),
      });
      await putInPlace(deps, job, address, zone, host, hostName, issued);
      await lookUpNow(deps, job.site);
    },
    async undo(job, error) {
      const nowMs = deps.world.clock.nowMs();
      await deps.db.transaction(async (tx) => {
        const { attempts } = await tx.one<{ attempts: number }>(
          `insert into certificate (site_id, zone, names, error, attempts) values ($1, $3, '{}', $2, 1)
           on conflict (site_id, zone) do update set error = excluded.error, attempts = certificate.attempts + 1 returning attempts`,
          [job.site, JSON.stringify(describeError(error)), readZone(job)],
        );
        const nextTry = new Date(nowMs + retryAfterMs(attempts));
        await tx.run('update certificate set next_try_at = $2 where site_id = $1 and zone = $3', [
          job.site,
          nextTry,
          readZone(job),
        ]);
        // The next try starts with a lookup, since what stood in the way may be gone by then.
        await tx.run('update address set next_lookup_at = least(next_lookup_at, $2) where site_id = $1', [
          job.site,
          nextTry,
        ]);
        await announce(tx, { kind: 'address', site: job.site });
      });
    },
  };
}

const readZone = ({ body }: Pick<JobRun, 'body'>): DomainName => certificateBody.parse(body).zone;
const certificateBody = z.object({ zone: z.string() });

/**
 * An authority counts failures, so everything it will ask is asked here first: the records, CAA, and a
 * challenge of our own fetched by the way visitors take.
 */
async function testChallengeFirst(
  deps: Deps,
  job: JobRun,
  acme: AcmePort,
  zone: ZoneNames,
  host: SiteHost,
  hostName: string,
): Promise<void> {
  const seen = await readLatestLookup(deps.db, job.site);
  if (!seen) throw new DomainError('no-lookup-yet');
  const { changes, answered, sets } = reckonRecords(seen.facts, { zones: [zone] }, host.targets, acme.caaIdentity);
  if (!answered) throw new DomainError('certificate-not-ready', { reason: reason('no-name-server') });
  for (const name of zone.names) {
    const verdict = judgeCaa(name, sets, acme.caaIdentity);
    if (!verdict.allows)
      throw new DomainError('certificate-not-ready', {
        reason: reason('caa-forbids', { at: verdict.decidedAt ?? name, why: verdict.why, issuer: acme.caaIdentity }),
      });
  }
  if (changes.length > 0)
    throw new DomainError('certificate-not-ready', {
      reason: reason('records-not-right', { count: changes.length }),
    });
  const [resolver] = await readResolvers(deps, deps.db, job.site);
  const token = randomBytes(16).toString('base64url');
  await host.port.challenge(hostName, token, `${token}.test`);
  try {
    for (const [done, name] of zone.names.entries()) {
      job.signal.throwIfAborted();
      job.report({ step: progressStep('certificate-try', { name }), done, total: zone.names.length, unit: 'names' });
      const answer = resolver && (await deps.world.dns.resolver(resolver.endpoint, { name, type: 'A' }));
      const fromResolver =
        answer?.ok === true ? answer.reply.answers.find(({ type }) => type === 'A')?.data : undefined;
      // A resolver may still hold the old answer; the authority is asked by certificate authorities too.
      const to =
        fromResolver !== undefined && host.targets.ipv4.includes(fromResolver) ? fromResolver : host.targets.ipv4[0];
      if (to === undefined)
        throw new DomainError('certificate-not-ready', { reason: reason('name-without-address', { name }) });
      const visit = await deps.world.web.get(to, name, `${CHALLENGE_PATH}${token}`);
      if (!visit.ok)
        throw new DomainError('certificate-not-ready', {
          reason: reason('not-reached', { url: `http://${name}${CHALLENGE_PATH}`, why: visit.reason }),
        });
      if (visit.status !== 200 || visit.body.trim() !== `${token}.test`)
        throw new DomainError('certificate-not-ready', {
          reason: reason('answered-by-another', { url: `http://${name}${CHALLENGE_PATH}`, status: visit.status }),
        });
    }
  } finally {
    await host.port.challenge(hostName, token, null);
  }
}

async function readAccountKey(deps: Deps, acme: AcmePort): Promise<Buffer> {
  const purpose = `acme account ${acme.directory}`;
  const fresh = deps.seal.seal(purpose, (await acme.newAccountKey()).toString());
  // Two processes may order first at once; one account is enough.
  await deps.db.run('insert into acme_account (directory, sealed_key) values ($1, $2) on conflict do nothing', [
    acme.directory,
    fresh,
  ]);
  const { sealed } = await deps.db.one<{ sealed: Buffer }>(
    'select sealed_key as sealed from acme_account where directory = $1',
    [acme.directory],
  );
  return Buffer.from(deps.seal.open(purpose, sealed));
}

async function putInPlace(
  deps: Deps,
  job: JobRun,
  address: SiteAddress,
  zone: ZoneNames,
  { port }: SiteHost,
  hostName: string,
  { chain, key }: { chain: string; key: string },
): Promise<void> {
  const leaf = new X509Certificate(chain);
  const names = [...(leaf.subjectAltName ?? '').matchAll(/DNS:([^,\s]+)/g)].map(([, name = '']) => name.toLowerCase());
  const missing = zone.names.filter((name) => !names.some((each) => covers(each, name)));
  if (missing.length > 0)
    throw new DomainError('certificate-refused', {
      detail: reason('certificate-for-others', { names, missing }),
    });
  if (Date.parse(leaf.validTo) <= deps.world.clock.nowMs())
    throw new DomainError('certificate-refused', {
      detail: reason('certificate-over'),
    });
  await port.naming?.setCertificate(hostName, { names, chain, key });
  await deps.db.transaction(async (tx) => {
    await tx.run(
      `update certificate set names = $2, chain = $3, sealed_key = $4, not_before = $5, not_after = $6, error = null, attempts = 0, next_try_at = null where site_id = $1 and zone = $7`,
      [
        job.site,
        names,
        chain,
        deps.seal.seal(`certificate ${job.site}`, key),
        new Date(leaf.validFrom),
        new Date(leaf.validTo),
        zone.zone,
      ],
    );
    // https is there now, so http goes to it; somebody who wants otherwise can say so afterwards.
    if (zone.zone === address.zones[0]?.zone)
      await tx.run('update address set force_https = true where site_id = $1', [job.site]);
    await announce(tx, { kind: 'address', site: job.site });
  });
  await port.naming?.setNames(hostName, listHostNames(await readSiteAddress(deps.db, job.site)));
}
