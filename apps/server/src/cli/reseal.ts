/** Seals everything in the database anew with the first of the configuration's keys; servers may go on meanwhile. */
import { readFileSync } from 'node:fs';
import { parseEnv } from 'node:util';
import { readConfig } from '../config/config.ts';
import { connect } from '../db/database.ts';
import { resealAll } from '../features/sealed/sealedSecrets.ts';
import { sealWith } from '../secrets.ts';
import type { Write } from './main.ts';

/** @param file of settings; the environment goes before it */
export async function reseal(file: string | undefined, write: Write): Promise<0 | 2> {
  try {
    const settings = file === undefined ? {} : parseEnv(readFileSync(file, 'utf8'));
    const { databaseUrl, sealKeys } = readConfig({ ...settings, ...process.env });
    const seal = sealWith(sealKeys);
    const db = connect(databaseUrl, () => {});
    try {
      const count = await resealAll(db, seal);
      const [current] = seal.keyIds;
      write.out(
        `${count} ${count === 1 ? 'secret is' : 'secrets are'} sealed anew; everything is by the key ${current} now. The keys behind it in FASTIGIUM_SEAL_KEY can go.\n`,
      );
      return 0;
    } finally {
      await db.close();
    }
  } catch (error) {
    write.problem(`Nothing was sealed anew: ${(error as Error).message}\n`);
    return 2;
  }
}
