/** What a live host asks of visitors, and what the checks from outside have to say to come in. */
import { judgeAdmission, type Admission, type SiteAccess } from '@fastigium/core/access';
import type { Deps } from '../../deps.ts';
import { readPasswords } from './visitorPasswords.ts';

export interface Entrance {
  admit(path: string, file: string | undefined): Admission;
  /** Request headers with which a path is answered; none where no password is asked for. */
  headersFor(path: string, file?: string): Readonly<Record<string, string>>;
}

export async function createEntrance(deps: Deps, site: string, access: SiteAccess): Promise<Entrance> {
  const known = await readPasswords(
    deps.db,
    deps,
    site,
    access.rules.flatMap(({ entry }) => (entry.kind === 'password' ? [entry.hash] : [])),
  );
  const admit = (path: string, file: string | undefined) =>
    judgeAdmission(access, { path, file }, deps.world.clock.nowMs());
  return {
    admit,
    headersFor(path, file) {
      const admitted = admit(path, file);
      const password = admitted.kind === 'password' ? known.get(admitted.hash) : undefined;
      // RFC 7617 section 2.
      return admitted.kind === 'password' && password !== undefined
        ? { authorization: `Basic ${Buffer.from(`${admitted.user}:${password}`).toString('base64')}` }
        : {};
    },
  };
}
