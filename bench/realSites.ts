/** Twelve acts on every site of the corpus, held by the independent checker: how many files and links are not as asked. */
import { request } from 'node:http';
import { ACTS, runAct, type ActContext } from '../corpus/check/acts.ts';
import type { Answered } from '../corpus/check/site.ts';
import { MANNERS } from '../corpus/manners.ts';
import { filesOf, REAL_SITES, type Files } from '../corpus/sites.ts';
import { Client } from '../apps/server/tests/client.ts';
import { letBe, zip, type House } from '../apps/server/tests/harness.ts';
import { openBenchHouse, OWNER, type BenchHouse } from './house.ts';

const SHORT = ACTS.map(({ name }) =>
  name
    .replace('whole site under a path and back', 'under a path and back')
    .replace('section removed and put back', 'section out and back'),
);

/** @param only names of sites; all without it. @returns whether everything was as asked */
export async function realSitesBench(only: readonly string[]): Promise<boolean> {
  const house = await openBenchHouse();
  const client = new Client(house.url);
  await client.signIn(OWNER.email, OWNER.password);
  const sites: [string, () => Files][] = [
    ...REAL_SITES.map((site): [string, () => Files] => [site.name, () => filesOf(site)]),
    ...MANNERS.map((manner): [string, () => Files] => [
      manner.name,
      () => Object.fromEntries(Object.entries(manner.files).map(([path, text]) => [path, Buffer.from(text)])),
    ]),
  ];
  console.log(`| site | files | ${SHORT.join(' | ')} |\n|---|---|${SHORT.map(() => '---').join('|')}|`);
  let right = true;
  try {
    for (const [name, read] of sites) {
      if (only.length > 0 && !only.includes(name)) continue;
      const files = read();
      const context = await openSite(house, client, name, files);
      const cells: string[] = [];
      for (const act of ACTS) {
        const outcome = await runAct(act, context);
        if (typeof outcome === 'string') cells.push(`– (${outcome})`);
        else cells.push(outcome.length === 0 ? 'right' : `**${outcome.length} wrong**`);
        if (typeof outcome !== 'string' && outcome.length > 0) {
          right = false;
          for (const words of outcome.slice(0, 12)) console.error(`  ${name}, ${act.name}: ${words}`);
        }
      }
      console.log(`| ${name} | ${Object.keys(files).length} | ${cells.join(' | ')} |`);
    }
  } finally {
    await house.stop();
  }
  return right;
}

async function openSite(house: BenchHouse, client: Client, name: string, files: Files): Promise<ActContext> {
  const id = await client.newSite(name);
  await client.bringIn(id, await zip(files));
  const { hostName } = await client.overview(id);
  // Only what letting snags be needs of a house.
  const like = { server: { deps: house.deps }, owner: client } as unknown as House;
  let port: string | undefined;
  const publish = async () => {
    await letBe(like, id);
    const { state, error } = await client.publish(id);
    if (state !== 'done') throw new Error(`publishing ended ${state}: ${JSON.stringify(error)}`);
    port ??= new URL((await client.overview(id)).liveUrl ?? '').port;
  };
  await publish();
  return { client, id, files, publish, zip, visit: (path) => ask(Number(port), `${hostName}.localhost`, path) };
}

function ask(port: number, name: string, path: string): Promise<Answered> {
  return new Promise((resolve, reject) => {
    request({ host: '127.0.0.1', port, path, agent: false, headers: { host: name } }, (answer) => {
      const pieces: Buffer[] = [];
      answer.on('data', (piece: Buffer) => pieces.push(piece));
      answer.on('end', () =>
        resolve({ status: answer.statusCode ?? 0, location: answer.headers.location, bytes: Buffer.concat(pieces) }),
      );
    })
      .on('error', reject)
      .end();
  });
}
