/**
 * The command line: `survey DIR_OR_ZIP [--json]` checks a finished site with no server and no database.
 * Ends with 0 when nothing must be fixed, 1 when something must, 2 when it could not be read.
 */
import { DomainError } from '@fastigium/contracts/errors';
import { parseArgs } from 'node:util';
import { readSite } from './readSite.ts';
import { asJson, asText } from './report.ts';
import { surveySite } from '@fastigium/core/checks';

const USAGE = 'Say what to check:  npm run fastigium -- survey FOLDER_OR_ZIP [--json]\n';

export async function run(
  args: readonly string[],
  write: { out(text: string): void; problem(text: string): void },
): Promise<0 | 1 | 2> {
  let options: { values: { json?: boolean }; positionals: string[] };
  try {
    options = parseArgs({ args: [...args], allowPositionals: true, options: { json: { type: 'boolean' } } });
  } catch (error) {
    write.problem(`${(error as Error).message}\n${USAGE}`);
    return 2;
  }
  const [command, what, ...rest] = options.positionals;
  if (command !== 'survey' || what === undefined || rest.length > 0) {
    write.problem(USAGE);
    return 2;
  }
  try {
    const { files, notes } = await readSite(what);
    const snags = surveySite(files);
    write.out(
      options.values.json ? asJson(what, files.length, snags, notes) : asText(what, files.length, snags, notes),
    );
    return snags.some(({ severity }) => severity === 'must') ? 1 : 0;
  } catch (error) {
    const missing = (error as NodeJS.ErrnoException).code === 'ENOENT';
    write.problem(
      `${missing ? `There is nothing at ${what}.` : error instanceof DomainError ? error.message : String(error)}\n`,
    );
    return 2;
  }
}
