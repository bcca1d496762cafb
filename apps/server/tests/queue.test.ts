/** The queue of long work, on a real database: who has a job, and what becomes of it when its lease runs out. */
import { setTimeout as pause } from 'node:timers/promises';
import { DomainError } from '@fastigium/contracts/errors';
import { pino } from 'pino';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { connect, type Database } from '../src/db/database.ts';
import { announce, listen, type NewsFeed } from '../src/db/events.ts';
import { migrate } from '../src/db/migrate.ts';
import { cancelJob, enqueue, type JobHandler, type JobKind } from '../src/jobs/queue.ts';
import { startWorker, type Worker } from '../src/jobs/worker.ts';
import { JOB_COLUMNS, describeJob as jobRowOf, type JobRow } from '../src/features/jobs/jobRow.ts';
import { freshDatabase, MIGRATIONS } from './harness.ts';

let database: Awaited<ReturnType<typeof freshDatabase>>;
let db: Database;
let feed: NewsFeed;
let by: string;
let site: string;
const workers: Worker[] = [];

beforeAll(async () => {
  database = await freshDatabase();
  db = connect(
    () => database.url,
    () => {},
  );
  await migrate(db, MIGRATIONS);
  feed = await listen(
    () => database.url,
    () => {},
  );
  const team = await db.one<{ id: string }>(`insert into team (name) values ('House') returning id`);
  const person = await db.one<{ id: string }>(
    `insert into person (team_id, email, name, role, password_hash) values ($1, 'a@house.example', 'A', 'owner', 'none') returning id`,
    [team.id],
  );
  by = person.id;
  site = (
    await db.one<{ id: string }>(
      `insert into site (team_id, name, temporary_label, host_name) values ($1, 'Moor', 'moor', 'moor') returning id`,
      [team.id],
    )
  ).id;
});
afterEach(async () => {
  await Promise.all(workers.splice(0).map((worker) => worker.stop()));
  await db.run('delete from job');
});
afterAll(async () => {
  await feed.close();
  await db.close();
  await database.drop();
});

function work(
  run: JobHandler['run'],
  leaseSeconds: number,
  undo?: JobHandler['undo'],
  retryPauses: readonly number[] = [],
): void {
  const handlers = new Proxy({} as Record<JobKind, JobHandler>, { get: () => ({ run, ...(undo ? { undo } : {}) }) });
  const log = pino({ level: 'silent' });
  workers.push(
    startWorker(db, feed, handlers, { process: crypto.randomUUID(), leaseSeconds, concurrency: 4, retryPauses, log }),
  );
}

const put = (kind: JobKind = 'publish') => db.transaction((tx) => enqueue(tx, { kind, site, body: {}, by }));
const jobRow = (id: string) =>
  db.one<{ state: string; attempts: number }>('select state, attempts from job where id = $1', [id]);

async function until(is: () => boolean | Promise<boolean>): Promise<void> {
  for (let tries = 0; tries < 400; tries += 1) {
    if (await is()) return;
    await pause(25);
  }
  throw new Error('it did not come to that');
}

describe('a job whose lease ran out', () => {
  const runOut = (id: string) =>
    db.run(`update job set leased_until = now() - interval '1 second' where id = $1`, [id]);

  it('is not begun a second time by the process that is still at it', async () => {
    let begun = 0;
    const finish = new AbortController();
    work(
      async () => {
        begun += 1;
        await pause(60_000, undefined, { signal: finish.signal }).catch(() => {});
      },
      // Renewed each 20 seconds, so not before it is looked for again.
      60,
    );
    const id = await put();
    await until(() => begun === 1);
    await runOut(id);
    // Whoever hears of other work looks for all there is, the oldest first.
    const other = await put();
    await until(() => begun === 2);
    expect(await jobRow(id)).toEqual({ state: 'running', attempts: 1 });
    finish.abort();
    for (const each of [id, other]) await until(async () => (await jobRow(each)).state === 'done');
    expect([await jobRow(id), begun]).toEqual([{ state: 'done', attempts: 1 }, 2]);
  });

  it('is taken up by another process, and the first one stops and says nothing of it', async () => {
    const ends: string[] = [];
    work(async ({ signal }) => {
      await pause(60_000, undefined, { signal }).catch(() => ends.push('first one stopped'));
      signal.throwIfAborted();
    }, 3);
    const id = await put();
    await until(async () => (await jobRow(id)).state === 'running');
    work(async ({ attempt }) => void ends.push(`attempt ${attempt} done`), 3);
    // Heard of by both; only the second may have it.
    await runOut(id);
    await announce(db, { kind: 'job', site, job: crypto.randomUUID() });
    await until(() => ends.length === 2);
    expect(ends.sort()).toEqual(['attempt 2 done', 'first one stopped']);
    expect(await jobRow(id)).toEqual({ state: 'done', attempts: 2 });
  });
});

describe('a job that is cancelled', () => {
  it('while it waits never begins, and is cleared up after', async () => {
    const said: string[] = [];
    const id = await put();
    await cancelJob(db, id, by);
    work(
      async () => void said.push('ran'),
      3,
      async (_, error) => void said.push(error.code),
    );
    await until(async () => (await jobRow(id)).state === 'cancelled');
    expect(said).toEqual(['cancelled']);
  });

  it('after it ended is refused', async () => {
    work(async () => {}, 3);
    const id = await put();
    await until(async () => (await jobRow(id)).state === 'done');
    await expect(cancelJob(db, id, by)).rejects.toMatchObject({ code: 'job-ended' });
  });
});

describe('a job that meets a failure that may pass', () => {
  const away = () => new DomainError('host-unreachable', { detail: 'connection refused' });

  it('is tried again after pauses, says so meanwhile, and counts as one attempt', async () => {
    let tries = 0;
    work(
      async () => {
        tries += 1;
        if (tries < 3) throw away();
      },
      3,
      async () => expect.unreachable('nothing is cleared up'),
      [0.4, 0.1],
    );
    const id = await put();
    const seen = () => db.one<JobRow>(`select ${JOB_COLUMNS} from job where id = $1`, [id]).then(jobRowOf);
    await until(async () => (await seen()).retry !== null);
    expect(await seen()).toMatchObject({
      state: 'waiting',
      retry: { tries: 1, error: { code: 'host-unreachable', details: { detail: 'connection refused' } } },
    });
    await until(async () => (await jobRow(id)).state === 'done');
    expect(tries).toBe(3);
    expect(await jobRow(id)).toEqual({ state: 'done', attempts: 1 });
    expect((await seen()).retry).toBe(null);
  });

  it('fails once all pauses are used up, and is cleared up after', async () => {
    const said: string[] = [];
    work(
      async () => {
        said.push('tried');
        throw away();
      },
      3,
      async (_, error) => void said.push(error.code),
      [0.05],
    );
    const id = await put();
    await until(async () => (await jobRow(id)).state === 'failed');
    expect(said).toEqual(['tried', 'tried', 'host-unreachable']);
  });

  it('fails at once where it would only fail again', async () => {
    work(
      async () => {
        throw new DomainError('host-login-refused', { user: 'x' });
      },
      3,
      undefined,
      [60],
    );
    const id = await put();
    await until(async () => (await jobRow(id)).state === 'failed');
  });

  it('can be cancelled in a pause', async () => {
    work(
      async () => {
        throw away();
      },
      3,
      undefined,
      [3600],
    );
    const id = await put();
    await until(async () => (await jobRow(id)).state === 'waiting');
    await cancelJob(db, id, by);
    await until(async () => (await jobRow(id)).state === 'cancelled');
  });

  it('is done where a closer look finds that it has happened all the same', async () => {
    work(
      async () => {
        throw new Error('the line broke behind it');
      },
      3,
      async () => 'done',
    );
    const id = await put();
    await until(async () => (await jobRow(id)).state === 'done');
  });
});

describe('a job that ends well while its process is told to end', () => {
  it('is done, and nobody does it again', async () => {
    let runs = 0;
    const finish = new AbortController();
    work(async () => {
      runs += 1;
      await pause(60_000, undefined, { signal: finish.signal }).catch(() => {});
    }, 3);
    const id = await put();
    await until(() => runs === 1);
    const stopped = workers[0]?.stop();
    finish.abort();
    await stopped;
    expect(await jobRow(id)).toEqual({ state: 'done', attempts: 1 });
  });
});

describe('work nobody waits for', () => {
  it('never takes all places, however much of it there is', async () => {
    const begun: string[] = [];
    const finish = new AbortController();
    work(async ({ id }) => {
      begun.push(id);
      await pause(60_000, undefined, { signal: finish.signal }).catch(() => {});
    }, 60);
    for (const kind of ['pictures', 'inspect', 'suggest', 'sweep'] as const) await put(kind);
    await until(() => begun.length === 2);
    const publish = await put();
    await until(() => begun.includes(publish));
    expect(begun).toHaveLength(3);
    // Nor is any of it forgotten.
    finish.abort();
    await until(() => begun.length === 5);
  });
});
