/**
 * Runs tests against one change after the other, in this thread: what covers a change is known from a run without any,
 * and the first test that fails is enough.
 */
import { parentPort, workerData } from 'node:worker_threads';
import { putAway, takeTests } from './tests.mjs';

const ns = (globalThis.__stryker__ = {});
let loads = 0;

async function load(active) {
  ns.activeMutant = active;
  ns.currentTestId = undefined;
  const { loaded } = await import(`${workerData.bundle}?${(loads += 1)}`);
  await loaded;
  return takeTests();
}

/** Which tests come by which changes, and how long each takes. */
async function survey() {
  const tests = await load(undefined);
  const took = [];
  for (const [at, test] of tests.entries()) {
    ns.currentTestId = String(at);
    const from = performance.now();
    try {
      await test.run();
    } catch (error) {
      throw new Error(`without any change: ${test.file}: ${test.name}: ${error.message}`, { cause: error });
    }
    took.push(performance.now() - from);
  }
  ns.currentTestId = undefined;
  const { static: atLoad, perTest } = ns.mutantCoverage ?? { static: {}, perTest: {} };
  return { took, atLoad, perTest };
}

async function isFound(tests, order) {
  for (const at of order) {
    try {
      await tests[at].run();
    } catch {
      return true;
    }
  }
  return false;
}

let plain;
parentPort.on('message', async (task) => {
  if (task.kind === 'survey') {
    parentPort.postMessage(await survey());
    return;
  }
  if (task.kind === 'end') {
    await putAway();
    process.exit();
  }
  const { id, order, isStatic, hits } = task;
  ns.hitCount = 0;
  // A loop that does not end any more is left by the switch inside of it.
  ns.hitLimit = hits * 100 + 10_000;
  let found;
  if (isStatic) {
    try {
      found = await isFound(await load(id), order);
    } catch {
      found = true;
    }
  } else {
    plain ??= await load(undefined);
    ns.activeMutant = id;
    found = await isFound(plain, order);
  }
  ns.activeMutant = undefined;
  parentPort.postMessage({ id, found, loads });
});
