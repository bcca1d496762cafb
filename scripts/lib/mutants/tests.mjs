/** Stands for `vitest` where tests are run many times over in one process: gathers them instead of running them. */
import { chai, JestAsymmetricMatchers, JestChaiExpect, JestExtend } from '@vitest/expect';
import { format } from 'node:util';
import fc from 'fast-check';

chai.use(JestExtend);
chai.use(JestChaiExpect);
chai.use(JestAsymmetricMatchers);

export const expect = chai.expect;

// What is found is enough here; the smallest example of it is not looked for.
fc.configureGlobal({ endOnFailure: true });

let gathered = [];
let path = [];
let loading = Promise.resolve();

/** Loads one file of tests after the other. */
export function inFile(name, load) {
  loading = loading.then(async () => {
    path = [name];
    await load();
  });
}
export const whole = () => loading;

/** The tests of the bundle that was loaded last: `{ file, name, run }`. */
export function takeTests() {
  const tests = gathered;
  gathered = [];
  return tests;
}

const each = (one) => (table) => (name, run, more) => {
  for (const [at, row] of table.entries()) {
    const cells = Array.isArray(row) ? row : [row];
    one(`${format(name, ...cells)} ${at}`, () => run(...cells), more);
  }
};

export function describe(name, gather) {
  const outer = path;
  path = [...path, name];
  gather();
  path = outer;
}
describe.each = each(describe);

export function it(name, run) {
  gathered.push({ file: path[0], name: [...path.slice(1), name].join(' > '), run });
}
it.each = each(it);
export const test = it;

const ends = [];
export const afterAll = (run) => ends.push(run);
/** What tests put away when all of them are through. */
export const putAway = async () => {
  for (const run of ends.splice(0)) await run();
};
