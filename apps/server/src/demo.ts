/** Loads the demo scenario into an empty database, through the same features people use. */
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';
import type { Deps } from './deps.ts';
import { importFolder } from './features/imports/upload.ts';
import { addPerson, createOwner, needsOwner } from './features/people/people.ts';
import { addListed } from './features/redirects/routes.ts';
import { createSite } from './features/sites/sites.ts';

const person = z.object({ name: z.string(), email: z.string(), password: z.string() });
const scenario = z.object({
  site: z.object({ name: z.string(), hostName: z.string(), folder: z.string(), oldAddresses: z.string() }),
  owner: person,
  editor: person,
  reviewer: person,
});

export type Scenario = z.infer<typeof scenario>;

export async function readScenario(folder: string): Promise<Scenario> {
  return scenario.parse(JSON.parse(await readFile(join(folder, 'scenario.json'), 'utf8')));
}

/** Does nothing where there is somebody already. */
export async function loadDemo(deps: Deps, folder: string): Promise<boolean> {
  if (!(await needsOwner(deps.db))) return false;
  const { site, owner, editor, reviewer } = await readScenario(folder);
  const who = await createOwner(deps.db, owner);
  await addPerson(deps.db, who.team, { ...editor, role: 'editor' });
  await addPerson(deps.db, who.team, { ...reviewer, role: 'reviewer' });
  const { id } = await createSite(deps, who.team, site.name, site.hostName);
  const lines = (await readFile(join(folder, site.oldAddresses), 'utf8')).split('\n').slice(1);
  await addListed(
    deps,
    { site: id, by: who.id },
    lines.flatMap((line) => {
      // The list is ours and has no quoted fields: address,visits.
      const comma = line.lastIndexOf(',');
      return comma < 0 ? [] : [{ address: line.slice(0, comma), visits: Number(line.slice(comma + 1)) }];
    }),
  );
  await importFolder(deps, { site: id, by: who.id, folder: join(folder, site.folder), fileName: site.folder });
  return true;
}
