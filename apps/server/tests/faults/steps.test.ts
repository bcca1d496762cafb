/**
 * The database's connections are lost at each step of a publish, one after another: around everything that is asked of
 * the host, and in the middle of every transaction on the way, where the server process behind the connection ends
 * itself. What visitors get and what is said afterwards have to be the same thing.
 */
import type { SiteOverview } from '@fastigium/contracts/api/sites';
import { errorFrom } from '@fastigium/contracts/errors';
import { speak } from '../../src/words.ts';
import type { HostPort } from '@fastigium/contracts/ports/host';
import pg from 'pg';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { openHouse, SMALL_SITE, zip, type House } from '../harness.ts';

type HostStep = 'current' | 'missing' | 'put' | 'stage' | 'switchTo';
type Moment = 'before' | 'after';
const HOST_STEPS: readonly HostStep[] = ['current', 'missing', 'put', 'stage', 'switchTo'];
const IN_THE_HOST = HOST_STEPS.flatMap((step) => (['before', 'after'] as const).map((moment) => ({ step, moment })));

/** Where a server process ends itself, as a trigger's condition. */
const IN_THE_DATABASE = [
  {
    step: 'the files are fixed',
    table: 'release',
    on: 'update',
    when: 'old.shards is null and new.shards is not null',
  },
  { step: 'what was sent is counted', table: 'release', on: 'update', when: 'old.files_sent <> new.files_sent' },
  { step: 'what changed is kept', table: 'pages_changed', on: 'insert', when: 'true' },
  {
    step: 'the one before becomes past',
    table: 'release',
    on: 'update',
    when: `old.state = 'live' and new.state = 'past'`,
  },
  { step: 'it becomes live', table: 'release', on: 'update', when: `new.state = 'live' and old.state = 'sending'` },
  {
    step: 'the site points at it',
    table: 'site',
    on: 'update',
    when: 'old.live_release is distinct from new.live_release',
  },
  { step: 'the end is said', table: 'job', on: 'update', when: `new.kind = 'publish' and new.state = 'done'` },
];

/** Ends every connection to a house's database but its own. */
async function endConnections(url: string): Promise<void> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  await client.query(
    'select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()',
  );
  await client.end();
}

describe.each([
  { kind: 'that tries again', pauses: '0.1, 0.2, 0.4, 0.8' },
  { kind: 'that gives up at once', pauses: '' },
])('a publish $kind, whose database connections are lost', ({ pauses }) => {
  let house: House;
  let site: string;
  let round = 0;
  let armed: { step: HostStep; moment: Moment } | undefined;
  const triesAgain = pauses !== '';

  beforeAll(async () => {
    house = await openHouse({ env: { FASTIGIUM_RETRY_PAUSES: pauses } });
    const { hosts } = house.server.deps;
    const hostOf = hosts.of.bind(hosts);
    const lose = async (step: HostStep, moment: Moment) => {
      if (armed?.step !== step || armed.moment !== moment) return;
      armed = undefined;
      await endConnections(house.databaseUrl);
    };
    (hosts as { of: typeof hosts.of }).of = async (...args) => {
      const host = await hostOf(...args);
      const watched = (step: HostStep) => ({
        [step]: async (...given: unknown[]) => {
          await lose(step, 'before');
          const answer = await (host[step] as (...all: unknown[]) => Promise<unknown>)(...given);
          await lose(step, 'after');
          return answer;
        },
      });
      return Object.assign({ ...host }, ...HOST_STEPS.map(watched)) as HostPort;
    };
    await house.server.deps.db.run('create sequence fault_shots');
    await house.server.deps.db.run(
      `create function end_this_process() returns trigger language plpgsql as $$
         begin
           -- A sequence forgets nothing when the transaction is gone.
           if nextval('fault_shots') = 1 then perform pg_terminate_backend(pg_backend_pid()); perform pg_sleep(5); end if;
           return new;
         end $$`,
    );
    site = await house.owner.newSite(`Steps ${triesAgain}`);
    await house.owner.bringIn(site, await zip(SMALL_SITE));
    await house.owner.publish(site);
  });
  afterAll(() => house.stop());
  beforeEach(async () => {
    round += 1;
    const { id } = await house.owner.page(site, '/welcome/');
    await house.owner.decide(site, { kind: 'title', page: id, title: `Round ${round}` });
  });

  const visitors = async () => {
    const { hostName } = await house.server.deps.db.one<{ hostName: string }>(
      'select host_name as "hostName" from site where id = $1',
      [site],
    );
    return (await house.visit(`${hostName}.localhost`, '/welcome/')).body;
  };
  /** Whatever was said, it is so. */
  async function expectTruth(job: Awaited<ReturnType<typeof house.owner.publish>>): Promise<void> {
    const [release] = await house.owner.releases(site);
    const isOut = (await visitors()).includes(`<title>Round ${round}</title>`);
    expect([job.state, job.error?.code, release?.state]).toEqual(
      isOut ? ['done', undefined, 'live'] : ['failed', 'database-away', 'failed'],
    );
    if (triesAgain) expect(isOut).toBe(true);
    if (isOut) return;
    expect(job.error && speak(errorFrom(job.error).told)).toContain('Try again');
    // What is said to do next works.
    expect(await house.owner.publish(site)).toMatchObject({ state: 'done', error: null });
    expect(await visitors()).toContain(`<title>Round ${round}</title>`);
  }

  /** As a person does who is told to try again. */
  async function publish(): ReturnType<typeof house.owner.publish> {
    for (let tries = 0; ; tries += 1) {
      const stands = await house.owner.get<SiteOverview & { error?: { code: string } }>(`/api/sites/${site}`);
      const { body, status } =
        stands.status === 200
          ? await house.owner.post<{ job: string; error?: { code: string } }>(`/api/sites/${site}/releases`, {
              version: stands.body.version,
            })
          : { ...stands, body: { ...stands.body, job: '' } };
      if (status === 202) return house.owner.ended(body.job);
      expect([status, body.error?.code]).toEqual([503, 'database-away']);
      expect(tries).toBeLessThan(3);
    }
  }

  it.each(IN_THE_HOST)('$moment the host is told: $step', async (at) => {
    armed = at;
    const job = await publish();
    expect(armed).toBe(undefined);
    await expectTruth(job);
    if (at.step === 'switchTo' && at.moment === 'after') expect(job.state).toBe('done');
  });

  it.each(IN_THE_DATABASE)('while $step', async ({ table, on, when }) => {
    const { db } = house.server.deps;
    await db.run(`select setval('fault_shots', 1, false)`);
    await db.run(
      `create trigger fault before ${on} on ${table} for each row when (${when}) execute function end_this_process()`,
    );
    try {
      const job = await publish();
      expect((await db.one<{ shots: number }>('select last_value as shots from fault_shots')).shots).toBeGreaterThan(0);
      const { called } = await db.one<{ called: boolean }>('select is_called as called from fault_shots');
      expect(called).toBe(true);
      await expectTruth(job);
    } finally {
      await db.run(`drop trigger fault on ${table}`);
    }
  });
});
