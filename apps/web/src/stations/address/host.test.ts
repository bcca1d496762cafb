// @vitest-environment jsdom
/** Where a site is published: the host that came along, or an account of one's own, connected here. Names are invented. */
import { addressApi } from '@fastigium/contracts/api/address';
import { hostingApi, type HostingView } from '@fastigium/contracts/api/hosting';
import { host } from '@fastigium/contracts/messages/address';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { defineComponent, h } from 'vue';
import { useNotices } from '../../stores/notices.ts';
import { FakeServer } from '../../testing/fakeServer.ts';
import { findField, findButton, readPageText, press, write } from '../../testing/page.ts';
import { answerSite, isShown, showScreen } from '../../testing/screen.ts';
import HostBench from './HostBench.vue';
import { provideHosting } from './hosting.ts';

const account: HostingView['account'] = {
  kind: 'stand-in',
  words: host('no-plan', { host: 'Moor Hosting' }),
  plan: null,
  region: null,
  months: null,
  pinnedKey: null,
  probedAt: null,
  hasSecret: false,
};
const view: HostingView = {
  account,
  simulated: true,
  needs: { files: 9, bytes: 4000, ownDomain: false, certificate: false, password: false, backups: true },
  months: 12,
  plans: [],
  regions: [],
  visitors: [],
  temporary: { label: 'moor', url: 'http://moor.host.test/' },
  folders: ['/srv/www'],
};
const onSftp: HostingView = {
  ...view,
  account: {
    ...account,
    kind: 'sftp',
    words: host('sftp', { user: 'web', server: 'files.host.test', folder: '/var/www' }),
    pinnedKey: 'SHA256:abc',
  },
};

/** The bench as it stands in its station. */
const Bench = defineComponent({
  setup() {
    provideHosting();
    return () => h(HostBench);
  },
});

let server: FakeServer;
beforeEach(() => {
  server = new FakeServer();
  answerSite(server);
  server.answers(hostingApi.view, view);
  server.refuses(addressApi.view, 'internal', { reference: 'x' });
});
afterEach(() => {
  document.body.innerHTML = '';
});
const show = async (words: string, role: 'owner' | 'editor' = 'owner') => {
  showScreen(Bench, { role, without: ['BasePath'] });
  await isShown(() => expect(readPageText()).toContain(words));
};
const choose = (name: string) => {
  const radio = [...document.querySelectorAll<HTMLElement>('[role=radio]')].find(
    ({ textContent }) => textContent.trim() === name,
  );
  if (!radio) throw new Error(`there is no ${name}`);
  radio.click();
};

describe('the host', () => {
  it('that came along has a temporary address whose name can be changed', async () => {
    server.answers(hostingApi.temporary, { ...view, temporary: { label: 'heath', url: 'http://heath.host.test/' } });
    await show('http://moor.host.test/');
    expect(findButton('Change it')?.disabled).toBe(true);
    await write('Its name', ' Heath ');
    await press('Change it');
    await isShown(() => expect(readPageText()).toContain('http://heath.host.test/'));
    expect(server.sentTo(hostingApi.temporary)).toEqual([{ label: 'heath', keepOldDays: 30 }]);
  });

  it('says that a name is taken, and keeps what was typed', async () => {
    server.refuses(hostingApi.temporary, 'temporary-name-taken', { label: 'heath', free: 'heath-site' });
    await show('http://moor.host.test/');
    await write('Its name', 'heath');
    await press('Change it');
    await isShown(() => expect(useNotices().notice?.text).toContain('heath-site'));
    expect(findField('Its name').value).toBe('heath');
  });

  it('is a server over SFTP only once its key was agreed to', async () => {
    server.answers(hostingApi.hostKey, { fingerprint: 'SHA256:abc' });
    server.answers(hostingApi.connect, onSftp);
    await show('http://moor.host.test/');
    choose('SFTP');
    await isShown(() => expect(findButton('Ask for its key')?.disabled).toBe(true));
    await write('Server', 'files.host.test');
    await press('Ask for its key');
    await isShown(() => expect(readPageText()).toContain('SHA256:abc'));
    expect(server.sentTo(hostingApi.connect)).toEqual([]);
    await write('User', 'web');
    await write('Password', 'heather');
    await write('Folder there', '/var/www');
    await press('It is the right key: connect');
    await isShown(() => expect(readPageText()).toContain('its key SHA256:abc is pinned'));
    expect(server.sentTo(hostingApi.connect)).toEqual([
      {
        kind: 'sftp',
        server: 'files.host.test',
        port: 22,
        user: 'web',
        folder: '/var/www',
        password: 'heather',
        fingerprint: 'SHA256:abc',
      },
    ]);
  });

  it('asks for the key anew where another server is named', async () => {
    server.answers(hostingApi.hostKey, { fingerprint: 'SHA256:abc' });
    await show('http://moor.host.test/');
    choose('SFTP');
    await isShown(() => expect(findButton('Ask for its key')).toBeDefined());
    await write('Server', 'files.host.test');
    await press('Ask for its key');
    await isShown(() => expect(readPageText()).toContain('SHA256:abc'));
    await write('Server', 'other.host.test');
    await isShown(() => expect(findButton('Ask for its key')).toBeDefined());
    expect(readPageText()).not.toContain('SHA256:abc');
  });

  it('is a folder that the operator has opened, tried before it counts', async () => {
    server.refuses(hostingApi.connect, 'host-place-shut', {
      path: '/etc',
      open: '/srv/www',
      setting: 'FASTIGIUM_HOST_FOLDERS',
    });
    await show('http://moor.host.test/');
    choose('A folder');
    await isShown(() => expect(readPageText()).toContain('/srv/www'));
    await write('Folder on this machine, its whole path', '/etc');
    await press('Try and connect it');
    await isShown(() => expect(useNotices().notice?.kind).toBe('problem'));
    expect(findField('Folder on this machine, its whole path').value).toBe('/etc');
    expect(server.sentTo(hostingApi.connect)).toEqual([{ kind: 'folder', folder: '/etc' }]);
  });

  it('says who opens folders, where none is open', async () => {
    server.answers(hostingApi.view, { ...view, folders: [] });
    await show('http://moor.host.test/');
    choose('A folder');
    await isShown(() => expect(readPageText()).toContain('FASTIGIUM_HOST_FOLDERS'));
    expect(findButton('Try and connect it')).toBeUndefined();
  });

  it('of one’s own can be left for the one that came along', async () => {
    server.answers(hostingApi.view, onSftp);
    server.answers(hostingApi.connect, view);
    await show('A server over SFTP');
    expect(readPageText()).toContain('This place keeps files, nothing else');
    choose('Host stand-in');
    await isShown(() => expect(findButton('Publish to the stand-in again')).toBeDefined());
    await press('Publish to the stand-in again');
    await isShown(() => expect(server.sentTo(hostingApi.connect)).toEqual([{ kind: 'stand-in' }]));
  });

  it('is needed first, and an owner connects it', async () => {
    server.answers(hostingApi.view, { ...view, temporary: null });
    await show('Nothing can be published before the site has a host', 'editor');
    expect(readPageText()).toContain('An owner connects one.');
    expect(document.querySelector('form')).toBeNull();
  });
});
