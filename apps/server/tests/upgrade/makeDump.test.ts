/** Makes the next dump, where it is asked for: README.md beside it says when and how. */
import { execFile } from 'node:child_process';
import { readdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { expect, it } from 'vitest';
import { letBe, openHouse, SMALL_SITE, zip, type House } from '../harness.ts';

const file = process.env['FASTIGIUM_DUMP'];
const run = promisify(execFile);

/** What the host keeps, as a broken disk or a stranger leaves it. */
async function spoil({ hostFolder }: House): Promise<void> {
  const kept = await readdir(join(hostFolder, 'contents'), { recursive: true, withFileTypes: true });
  for (const entry of kept.filter((each) => each.isFile())) {
    const path = join(entry.parentPath, entry.name);
    const text = await readFile(path, 'utf8');
    if (text.includes('Welcome back')) await writeFile(path, text.replace('Welcome back', 'Welcome bank'));
  }
}

it.runIf(file)(
  'a site, its history and its people as this version keeps them',
  async () => {
    const house = await openHouse();
    const { owner } = house;
    const site = await owner.newSite('Kept from before');
    const at = (path: string) => `/api/sites/${site}/${path}`;
    const decide = async (decision: object, who = owner) => {
      const answer = await who.decide(site, decision);
      expect(answer.status).toBe(201);
      return answer.body;
    };
    const begin = async (path: string, body: object = {}) => {
      const answer = await owner.post<{ job: string }>(at(path), body);
      expect((await owner.ended(answer.body.job)).state).toBe('done');
    };
    await owner.bringIn(site, await zip(SMALL_SITE));
    await letBe(house, site);
    await owner.publish(site);
    const [welcome, visit] = [await owner.page(site, '/welcome/'), await owner.page(site, '/visit/')];
    await decide({ kind: 'title', page: welcome.id, title: 'Welcome back' });
    await decide({
      kind: 'redirect',
      from: '/old-visit.php',
      to: { status: 301, target: { kind: 'page', page: visit.id } },
    });
    await owner.post(at('old-addresses/pasted'), { text: '/old-visit.php\n/old-news.php' });
    await owner.post(at('hooks'), { kind: 'webhook', url: 'https://hooks.example/told', events: ['release-live'] });
    await owner.publish(site);
    await spoil(house);
    await begin('inspection');
    await decide({ kind: 'title', page: visit.id, title: 'Only in the draft' });
    await decide({ kind: 'step', direction: 'back' });
    await decide({ kind: 'step', direction: 'forward' });
    const invited = await owner.post<{ token: string }>('/api/invitations', { role: 'editor' });
    const editor = house.client();
    await editor.start();
    await editor.post(`/api/join/${invited.body.token}`, {
      name: 'Ben Hill',
      email: 'ben@moor.example',
      password: 'long enough for me',
    });
    await owner.post('/api/invitations', { role: 'reviewer' });
    const { made } = await decide({ kind: 'duplicate', page: visit.id, title: 'Team' }, editor);
    await decide(
      {
        kind: 'remove',
        thing: { kind: 'node', node: made, alone: false },
        standIn: { kind: 'gone' },
        links: 'kept',
        why: '',
      },
      editor,
    );
    const { version } = await owner.overview(site);
    const gone = await owner.post(at('removals/for-good'), { version, of: [version], confirmed: 'Team' });
    expect(gone.status).toBe(200);
    await begin('rehearsal');
    await begin('redirects/proof');
    const { db } = house.server.deps;
    await db.run(`update invitation set expires_at = '2099-01-01'`);
    const { name } = await db.one<{ name: string }>('select current_database() as name');
    const url = Object.assign(new URL(house.databaseUrl), { pathname: `/${name}` }).href;
    await run('pg_dump', ['--format=custom', '--compress=9', '--no-owner', '--no-privileges', `--file=${file}`, url]);
    await house.stop();
  },
  300_000,
);
