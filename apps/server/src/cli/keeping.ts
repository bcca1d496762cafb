/** What whoever runs a server does by hand: keeping everything, putting it back, and changing the key that seals. */
import { findAct } from '@fastigium/contracts/acts';
import { act, actAbout, type ActMessage } from '@fastigium/contracts/messages/act';
import { peopleApi } from '@fastigium/contracts/api/people';
import type { TrailKind } from '@fastigium/contracts/endpoint';
import { readFileSync } from 'node:fs';
import { readdir, writeFile } from 'node:fs/promises';
import { parseEnv } from 'node:util';
import { readConfig, type Config } from '../config/config.ts';
import { connect, type Database } from '../db/database.ts';
import { findPrimary } from '../db/places.ts';
import { makeReset } from '../features/people/passwords.ts';
import { findPersonByEmail } from '../features/people/people.ts';
import { checkSealKeys, resealAll } from '../features/sealed/sealedSecrets.ts';
import { writeAct } from '../features/trail/trail.ts';
import { sealWith } from '../secrets.ts';
import { VERSION } from '../version.ts';
import { writeBackup, restore, type Keys } from './backup.ts';
import type { Write } from './write.ts';
import { speak, explainError } from '../words.ts';

type Ended = 0 | 2;

/** Beside the sources, and beside what is built of them. */
const MIGRATIONS = new URL(import.meta.url.endsWith('.ts') ? '../../migrations' : '../migrations', import.meta.url);

/** @param file of settings; the environment goes before it */
function readSettings(file: string | undefined): Config {
  return readConfig({ ...(file === undefined ? {} : parseEnv(readFileSync(file, 'utf8'))), ...process.env });
}

const readPassphrase = (): string | undefined => {
  const said = process.env.FASTIGIUM_BACKUP_PASSPHRASE;
  return said === '' ? undefined : said;
};

async function attempt(what: string, write: Write, work: () => Promise<string>): Promise<Ended> {
  try {
    write.out(`${await work()}\n`);
    return 0;
  } catch (error) {
    write.problem(`${what}: ${speak(explainError(error))}\n`);
    return 2;
  }
}

async function onDatabase<T>(urls: readonly string[], work: (db: Database) => Promise<T>): Promise<T> {
  const url = await findPrimary(urls);
  const db = connect(
    () => url,
    () => {},
  );
  try {
    return await work(db.forWork);
  } finally {
    await db.close();
  }
}

export function runBackup(file: string, config: string | undefined, write: Write): Promise<Ended> {
  return attempt('Nothing was kept', write, async () => {
    const { hasKeys, migrations } = await writeBackup(readSettings(config), file, readPassphrase(), VERSION);
    return hasKeys
      ? `Everything is in ${file} (${migrations.length} migrations), the keys under the passphrase.`
      : `Everything but the keys is in ${file} (${migrations.length} migrations). Keep FASTIGIUM_SECRET and FASTIGIUM_SEAL_KEY elsewhere, or say FASTIGIUM_BACKUP_PASSPHRASE to have them in it.`;
  });
}

export function restoreFrom(
  file: string,
  config: string | undefined,
  keysTo: string | undefined,
  write: Write,
): Promise<Ended> {
  return attempt('Nothing was restored', write, async () => {
    const chosen = readSettings(config);
    const known = (await readdir(MIGRATIONS)).filter((name) => name.endsWith('.sql'));
    const { facts, keys } = await restore(chosen, file, readPassphrase(), known);
    if (keysTo !== undefined && keys) await writeFile(keysTo, asSettings(keys), { mode: 0o600 });
    const fits = await onDatabase(chosen.databaseUrls, (db) => checkSealKeys(db, sealWith(chosen.sealKeys))).then(
      () => 'The keys of the configuration open what is sealed in it.',
      (error: unknown) => speak(explainError(error)),
    );
    return [
      `What was kept on ${facts.at} is in the database.`,
      fits,
      ...(keysTo !== undefined && keys ? [`Its keys are in ${keysTo}; take them over into the settings.`] : []),
    ].join('\n');
  });
}

const asSettings = ({ secrets, sealKeys }: Keys): string =>
  `FASTIGIUM_SECRET=${secrets.join(', ')}\nFASTIGIUM_SEAL_KEY=${sealKeys.join(', ')}\n`;

/** What is done from here stands in the audit trail of every team it is done to. */
const describeByHand = (team: string, kind: TrailKind, what: ActMessage) => ({
  team,
  kind,
  what,
  who: '',
  address: '',
  request: 'command line',
});

/** Servers may go on meanwhile. */
export function runReseal(config: string | undefined, write: Write): Promise<Ended> {
  return attempt('Nothing was sealed anew', write, async () => {
    const { databaseUrls, sealKeys } = readSettings(config);
    const seal = sealWith(sealKeys);
    const [current] = seal.keyIds;
    const count = await onDatabase(databaseUrls, async (db) => {
      const resealed = await resealAll(db, seal);
      for (const { id } of await db.many<{ id: string }>('select id from team'))
        await writeAct(
          db,
          describeByHand(id, 'secrets', act('secrets-sealed')),
          'done',
          actAbout('by-key', { key: current ?? '' }),
        );
      return resealed;
    });
    return `${count} ${count === 1 ? 'secret is' : 'secrets are'} sealed anew; everything is by the key ${current} now. The keys behind it in FASTIGIUM_SEAL_KEY can go.`;
  });
}

/** For the owner who has lost their password, and whom no other owner can help. */
export function resetLink(email: string, config: string | undefined, write: Write): Promise<Ended> {
  return attempt('No link was made', write, async () => {
    const { databaseUrls, publicSite } = readSettings(config);
    return onDatabase(databaseUrls, async (db) => {
      const person = await findPersonByEmail(db, email);
      if (!person) throw new Error(`Nobody here has the address ${email}.`);
      const { token, until } = await makeReset(db, person.id);
      await writeAct(db, describeByHand(person.team, 'people', findAct(peopleApi.resetPassword)), 'done', person.name);
      return `${person.name} sets a new password at\n  ${publicSite.origin ?? ''}/reset/${token}\nuntil ${until}. Their second factors are asked for as before.`;
    });
  });
}
