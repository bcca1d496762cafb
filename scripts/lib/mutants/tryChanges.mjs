/** Tries changes in worker threads, each against the tests that come by it. */
import { once } from 'node:events';
import { setTimeout as pause } from 'node:timers/promises';
import { Worker } from 'node:worker_threads';

/** Each load of a bundle stays in memory. */
const MOST_LOADS = 60;
const START_MS = 20_000;
/** Tests that would take longer together are not all tried; the quickest are. */
const MOST_MS = 20_000;

/** @returns `{ change, found }` of each */
export async function tryChanges(bundle, changes, workers) {
  const survey = await surveyed(bundle);
  const tasks = changes.map((change) => taskFor(change, changes, survey));
  const results = [];
  const waiting = tasks.values();
  await Promise.all(
    Array.from({ length: workers }, async () => {
      let worker;
      for (const task of waiting) {
        const { change, order, limitMs, ...rest } = task;
        if (order.length === 0) {
          results.push({ change, found: false });
          continue;
        }
        worker ??= startWorker(bundle);
        const answer = await asked(worker, { kind: 'try', order, ...rest }, limitMs + START_MS);
        // What takes for ever has been noticed.
        results.push({ change, found: answer?.found ?? true });
        if (answer === undefined || answer.loads > MOST_LOADS) {
          await (answer === undefined ? worker.terminate() : ended(worker));
          worker = undefined;
        }
      }
      if (worker) await ended(worker);
    }),
  );
  const at = new Map(changes.map((change, index) => [change, index]));
  return results.sort((a, b) => at.get(a.change) - at.get(b.change));
}

const startWorker = (bundle) => new Worker(new URL('worker.mjs', import.meta.url), { workerData: { bundle } });

async function surveyed(bundle) {
  const worker = startWorker(bundle);
  worker.postMessage({ kind: 'survey' });
  const [survey] = await once(worker, 'message');
  await ended(worker);
  return survey;
}

/** With what its tests put away at their end. */
async function ended(worker) {
  const exit = once(worker, 'exit');
  worker.postMessage({ kind: 'end' });
  await exit;
}

/** Tests that come by the change, the quickest first; what is made while loading is seen by whoever uses its file. */
function taskFor(change, changes, { perTest, atLoad, took }) {
  const isStatic = change.id in atLoad;
  const wanted = isStatic
    ? new Set(changes.filter(({ fileName }) => fileName === change.fileName).map(({ id }) => id))
    : new Set([change.id]);
  const order = Object.entries(perTest)
    .filter(([, covered]) => Object.keys(covered).some((id) => wanted.has(id)))
    .map(([at]) => Number(at))
    .sort((a, b) => took[a] - took[b]);
  let left = MOST_MS;
  const tried = (order.length > 0 || !isStatic ? order : took.map((_, at) => at)).filter(
    (at) => (left -= took[at]) > 0,
  );
  const hits = Object.values(perTest).reduce((all, covered) => all + (covered[change.id] ?? 0), 0);
  const limitMs = 5 * tried.reduce((all, at) => all + took[at], 0);
  return { change, id: change.id, order: tried, isStatic, hits, limitMs };
}

/** Undefined where no answer comes in time, or the thread ended. */
async function asked(worker, task, withinMs) {
  const ended = new AbortController();
  const { signal } = ended;
  worker.postMessage(task);
  try {
    return await Promise.race([
      once(worker, 'message', { signal }).then(([answer]) => answer),
      once(worker, 'exit', { signal }).then(() => undefined),
      pause(withinMs, undefined, { signal }),
    ]);
  } catch {
    return undefined;
  } finally {
    ended.abort();
  }
}
