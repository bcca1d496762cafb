/** Source with every small change in it at once, each behind a switch: `@stryker-mutator/instrumenter` makes it. */
import { readFileSync } from 'node:fs';
import { commonTokens } from '@stryker-mutator/api/plugin';
import { createInstrumenter } from '@stryker-mutator/instrumenter';
import { createInjector } from 'typed-inject';

const silent = () => {};
const logger = Object.fromEntries(
  ['trace', 'debug', 'info', 'warn', 'error', 'fatal'].flatMap((level) => [
    [level, silent],
    [`is${level[0].toUpperCase()}${level.slice(1)}Enabled`, () => false],
  ]),
);

/**
 * @param files paths of TypeScript
 * @returns the changed text of each, and the changes: `{ id, fileName, location, mutatorName, replacement }`, lines from 1
 */
export async function instrument(files) {
  const instrumenter = createInjector().provideValue(commonTokens.logger, logger).injectFunction(createInstrumenter);
  const { files: changed, mutants } = await instrumenter.instrument(
    files.map((name) => ({ name, mutate: true, content: readFileSync(name, 'utf8') })),
    // Words alone are left out, since codes and patterns are held by types and by the tests of the catalogues; and empty
    // objects, which types refuse nearly everywhere.
    { plugins: null, excludedMutations: ['StringLiteral', 'ObjectLiteral'], ignorers: [] },
  );
  return {
    texts: new Map(changed.map(({ name, content }) => [name, content])),
    mutants: mutants.filter(({ status }) => status !== 'Ignored'),
  };
}
