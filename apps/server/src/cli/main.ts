/**
 * The command line: checks a finished site with no server and no database, and does what whoever runs a server has to
 * do now and then. Ends with 0 when nothing must be fixed, 1 when something must, 2 when it could not be done.
 */
import { parseArgs } from 'node:util';
import { readSite } from './readSite.ts';
import { asJson, asText } from './report.ts';
import { runBackup, resetLink, runReseal, restoreFrom } from './keeping.ts';
import type { Write } from './write.ts';
import { surveySite } from '@fastigium/core/checks';
import { speak, explainError } from '../words.ts';

const USAGE = `Say what to do:
  npm run fastigium -- survey FOLDER_OR_ZIP [--json]                    checks a finished site
  npm run fastigium -- backup FILE [--config FILE]                      keeps everything in one file
  npm run fastigium -- restore FILE [--config FILE] [--keys FILE]       puts it into an empty database
  npm run fastigium -- reset E-MAIL [--config FILE]                     makes a link by which somebody sets a new password
  npm run fastigium -- reseal [--config FILE]                           seals what is kept with the first key
`;

type Ended = 0 | 1 | 2;

export async function run(args: readonly string[], write: Write): Promise<Ended> {
  let options: { values: { json?: boolean; config?: string; keys?: string }; positionals: string[] };
  try {
    options = parseArgs({
      args: [...args],
      allowPositionals: true,
      options: { json: { type: 'boolean' }, config: { type: 'string' }, keys: { type: 'string' } },
    });
  } catch (error) {
    write.problem(`${(error as Error).message}\n${USAGE}`);
    return 2;
  }
  const [command, what, ...rest] = options.positionals;
  const { json, config, keys } = options.values;
  if (command === 'reseal' && what === undefined) return runReseal(config, write);
  if (what !== undefined && rest.length === 0) {
    if (command === 'survey') return survey(what, json ?? false, write);
    if (command === 'reset') return resetLink(what, config, write);
    if (command === 'backup') return runBackup(what, config, write);
    if (command === 'restore') return restoreFrom(what, config, keys, write);
  }
  write.problem(USAGE);
  return 2;
}

async function survey(what: string, json: boolean, write: Write): Promise<Ended> {
  try {
    const { files, notes } = await readSite(what);
    const snags = surveySite(files);
    write.out(json ? asJson(what, files.length, snags, notes) : asText(what, files.length, snags, notes));
    return snags.some(({ severity }) => severity === 'must') ? 1 : 0;
  } catch (error) {
    const missing = (error as NodeJS.ErrnoException).code === 'ENOENT';
    write.problem(`${missing ? `There is nothing at ${what}.` : speak(explainError(error))}\n`);
    return 2;
  }
}
