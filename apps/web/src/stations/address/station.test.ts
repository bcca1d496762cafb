// @vitest-environment jsdom
/** Address as it stands: one link at a time, what is to be done about it, and what the server is asked for it. */
import { addressApi, type AddressView, type LinkName } from '@fastigium/contracts/api/address';
import { hostingApi } from '@fastigium/contracts/api/hosting';
import { certificate } from '@fastigium/contracts/messages/address';
import { reason } from '@fastigium/contracts/messages/reason';
import { mail, recordStep, zoneFault } from '@fastigium/core/dns';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { useNotices } from '../../stores/notices.ts';
import { ADDRESS_VIEW, countFromNow, createRecordRow } from '../../testing/addressView.ts';
import { FakeServer } from '../../testing/fakeServer.ts';
import { findButton, findField, press, readPageText, write } from '../../testing/page.ts';
import { answerSite, isShown, showScreen } from '../../testing/screen.ts';
import AddressStation from './AddressStation.vue';

const WRONG = {
  zone: 'a.example',
  kind: 'replace',
  name: 'a.example',
  type: 'A',
  from: ['203.0.113.9'],
  to: ['198.51.100.24'],
  ttlSeconds: 3600,
} as const;
const CHANGE: AddressView['changes'][number] = {
  ...WRONG,
  from: [...WRONG.from],
  to: [...WRONG.to],
  words: recordStep('replace', { type: 'A', at: '@' }),
};
const DOMAIN = ADDRESS_VIEW.domain as NonNullable<AddressView['domain']>;
const SERVED: AddressView = {
  ...ADDRESS_VIEW,
  firstBroken: null,
  certificate: {
    ...ADDRESS_VIEW.certificate,
    state: 'served',
    words: certificate('served'),
    names: ['a.example', 'www.a.example'],
    issuer: 'Tarn CA',
    chain: ['Tarn R1', 'Tarn Root'],
    notBefore: countFromNow(-30 * 24 * 60),
    notAfter: countFromNow(60 * 24 * 60),
    daysLeft: 60,
    renewAt: countFromNow(30 * 24 * 60),
  },
};

let server: FakeServer;
beforeEach(() => {
  server = new FakeServer();
  answerSite(server);
  server.refuses(hostingApi.view, 'internal', { reference: 'x' });
});
afterEach(() => {
  document.body.innerHTML = '';
});

async function show(view: Partial<AddressView>, link?: LinkName, role: 'owner' | 'editor' | 'reviewer' = 'owner') {
  server.answers(addressApi.view, { ...ADDRESS_VIEW, ...view });
  showScreen(AddressStation, { role, without: ['HostBench', 'HostPanel'] });
  await isShown(() => expect(document.querySelectorAll('[role=tab]')).toHaveLength(5));
  if (link) document.querySelector<HTMLElement>(`#link-${link}`)?.click();
  await isShown(() => expect(document.querySelector('[aria-selected=true]')?.id).toBe(`link-${link ?? 'records'}`));
}
const title = () => document.querySelector('aside h1')?.textContent.trim();
const tick = (label: string) => {
  const box = [...document.querySelectorAll('label')].find(({ textContent }) => textContent.includes(label));
  box?.querySelector('input')?.click();
};

describe('the first link that does not hold', () => {
  it('is opened by itself, with what to do about it', async () => {
    await show({ changes: [CHANGE] });
    expect(title()).toBe('Next: put one record right');
    expect(readPageText()).toContain('In the DNS panel of a.example.');
    expect(readPageText()).toContain('203.0.113.9 →');
  });

  it('is where a name comes from, before there is one', async () => {
    server.answers(addressApi.bring, ADDRESS_VIEW);
    await show({ domain: null, chain: [], firstBroken: null }, 'registration');
    await isShown(() => expect(title()).toBe('A name for the site'));
    expect(findButton('Connect')?.disabled).toBe(true);
    await write('The name, as you would type it', 'a.example');
    await press('Connect');
    await isShown(() => expect(server.sentTo(addressApi.bring)).toEqual([{ name: 'a.example' }]));
    await isShown(() => expect(readPageText()).toContain('visitors see www.a.example'));
  });

  it('is not asked for what cannot be known without a name', async () => {
    await show({ domain: null, chain: [], firstBroken: null, canRegister: false }, 'certificate');
    expect(readPageText()).toContain('Bring one under Registration');
    document.querySelector<HTMLElement>('#link-registration')?.click();
    await isShown(() => expect(readPageText()).toContain('no registrar is set up'));
  });
});

describe('records', () => {
  it('are sent as an update where the name servers take one, exactly as they were read', async () => {
    server.answers(addressApi.sendUpdate, { ...ADDRESS_VIEW, changes: [], firstBroken: null });
    await show({ changes: [CHANGE], domain: { ...DOMAIN, updatable: ['a.example'] } });
    await press('Send as DNS update');
    await isShown(() => expect(useNotices().notice?.text).toBe('1 change sent; the name servers answer anew.'));
    expect(server.sentTo(addressApi.sendUpdate)).toEqual([{ changes: [WRONG] }]);
    expect(title()).toBe('The records are right');
  });

  it('are never sent while mail would be lost', async () => {
    const endangered = { endangered: true, messages: [mail('goes-to-address', { zone: 'a.example' })] };
    await show({ changes: [CHANGE], mail: endangered, domain: { ...DOMAIN, updatable: ['a.example'] } });
    expect(findButton('Send as DNS update')?.disabled).toBe(true);
    expect(document.querySelector('.mail')?.classList).toContain('wrong');
  });

  it('take a key first, which is kept by an owner and not shown again', async () => {
    server.answers(addressApi.updateKey, { ...ADDRESS_VIEW, changes: [CHANGE] });
    await show({ changes: [CHANGE] });
    await press('Set up DNS updates');
    await write('Name server, address and port', '192.0.2.1:53');
    await write('Name of the key', 'update.a.example');
    await write('Secret (base64, hmac-sha256)', 'aGVhdGhlcg==');
    await press('Keep the key');
    await isShown(() =>
      expect(server.sentTo(addressApi.updateKey)).toEqual([
        { server: '192.0.2.1:53', keyName: 'update.a.example', secret: 'aGVhdGhlcg==', algorithm: 'hmac-sha256' },
      ]),
    );
    await isShown(() => expect(findButton('Keep the key')).toBeUndefined());
    await show({ changes: [CHANGE] }, undefined, 'editor');
    expect(findButton('Set up DNS updates')).toBeUndefined();
  });

  it('are copied one by one', async () => {
    const writeText = vi.fn(() => Promise.resolve());
    Object.defineProperty(navigator, 'clipboard', { value: { writeText }, configurable: true });
    await show({ changes: [CHANGE] });
    await press('copy');
    expect(writeText).toHaveBeenCalledWith('198.51.100.24');
    await isShown(() => expect(useNotices().notice?.text).toBe('Copied: 198.51.100.24'));
  });

  it.each([
    [{ lookedAt: null }, 'Not looked at yet'],
    [{ records: [] }, 'Nothing is known of the records'],
    [{ changes: [CHANGE, { ...CHANGE, name: 'www.a.example' }] }, 'Next: put 2 records right'],
  ])('%#: are summed up in the title of the bench', async (view, words) => {
    await show(view);
    expect(title()).toBe(words);
  });

  it('are planned ahead: when to lower the TTL, and how long the old host stays', async () => {
    await show({ changes: [CHANGE] });
    const field = document.querySelector<HTMLInputElement>('#change-at');
    if (!field) throw new Error('there is no field for the time');
    // Two hours ahead, in the reader's own zone; the TTL of an hour leaves an hour until it has to be lowered.
    const ahead = new Date(Date.parse(countFromNow(120)));
    field.value = new Date(ahead.getTime() - ahead.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
    field.dispatchEvent(new Event('input', { bubbles: true }));
    await isShown(() => expect(readPageText()).toContain('Lower the TTL of these records from 1 h to 5 min.'));
    expect(readPageText()).not.toContain('some answers will outlive the change');
  });

  it('let another name be the main one, and a further name lead to it', async () => {
    const further = { name: 'old.example', status: 308, further: true } as const;
    server.answers(addressApi.settings, { ...ADDRESS_VIEW, domain: { ...DOMAIN, mainForm: 'apex' } });
    server.answers(addressApi.further, { ...ADDRESS_VIEW, domain: { ...DOMAIN, others: [further] } });
    server.answers(addressApi.leave, ADDRESS_VIEW);
    await show({});
    document.querySelectorAll<HTMLInputElement>('[name=main]')[1]?.click();
    await isShown(() => expect(server.sentTo(addressApi.settings)).toEqual([{ mainForm: 'apex' }]));
    await write('A further or an old domain that should lead here', 'old.example');
    await isShown(() => expect(findButton('Add')?.disabled).toBe(false));
    await press('Add');
    await isShown(() => expect(readPageText()).toContain('308 to the main one, path and query kept'));
    expect(server.sentTo(addressApi.further)).toEqual([{ name: 'old.example' }]);
    await press('let go');
    await isShown(() =>
      expect(server.asked.find(({ endpoint }) => endpoint === addressApi.leave)?.params.name).toBe('old.example'),
    );
  });

  it('come with a zone file, in and out; an error takes nothing over', async () => {
    server.answers(addressApi.zone, { zone: 'a.example', text: '@ 3600 IN A 198.51.100.24', now: '', source: 'ns1' });
    server.refuses(addressApi.bringZone, 'zone-unreadable', {
      line: 1,
      fault: zoneFault('no-ttl', { text: 'nonsense' }),
      more: 0,
    });
    await show({});
    await press('Zone file');
    await isShown(() => expect(document.querySelector('pre')?.textContent).toBe('@ 3600 IN A 198.51.100.24'));
    const field = document.querySelector<HTMLTextAreaElement>('#zone-in');
    if (!field) throw new Error('there is no field for a zone file');
    field.value = 'nonsense';
    field.dispatchEvent(new Event('input', { bubbles: true }));
    await isShown(() => expect(findButton('Read it')?.disabled).toBe(false));
    await press('Read it');
    await isShown(() => expect(document.querySelector('[role=alert]')).not.toBeNull());
    expect(field.value).toBe('nonsense');
    server.answers(addressApi.bringZone, { records: 4, kept: 2 });
    await press('Read it');
    await isShown(() => expect(readPageText()).toContain('4 records read; 2 of them are kept as they are.'));
    expect(field.value).toBe('');
  });
});

describe('name servers and resolvers', () => {
  it('are asked; one more can be, and no more', async () => {
    const resolvers = [
      ...(ADDRESS_VIEW.spread?.resolvers ?? []),
      {
        resolver: 'The gallery',
        address: '192.0.2.53',
        state: 'new' as const,
        oldUntil: null,
        answers: [],
        added: true,
      },
    ];
    const more = { ...ADDRESS_VIEW, spread: { ...(ADDRESS_VIEW.spread as never as object), resolvers } } as AddressView;
    server.answers(addressApi.addResolver, more);
    server.answers(addressApi.removeResolver, ADDRESS_VIEW);
    await show({}, 'name-servers');
    await write('What to call it', 'The gallery');
    await write('IP address, with a port where it is not 53', '192.0.2.53');
    await press('Add');
    await isShown(() => expect(findField('What to call it').value).toBe(''));
    expect(server.sentTo(addressApi.addResolver)).toEqual([{ name: 'The gallery', address: '192.0.2.53' }]);
    await press('ask it no more');
    await isShown(() => expect(readPageText()).not.toContain('192.0.2.53'));
  });

  it('keep what was typed where it is no address', async () => {
    server.refuses(addressApi.addResolver, 'input-invalid', { detail: reason('resolver-address') });
    await show({}, 'name-servers');
    await write('What to call it', 'The gallery');
    await write('IP address, with a port where it is not 53', 'gallery');
    await press('Add');
    await isShown(() => expect(useNotices().notice?.text).toContain('IP address'));
    expect(findField('What to call it').value).toBe('The gallery');
  });
});

describe('the certificate', () => {
  it('waits for the records, and is ordered once they are right', async () => {
    await show({ changes: [CHANGE] }, 'certificate');
    expect(findButton('Order it now')?.disabled).toBe(true);
    expect(readPageText()).toContain('as soon as the records are right');
    server.answers(addressApi.orderCertificate, { job: '00000000-0000-4000-8000-000000000009' });
    await show({ records: [createRecordRow('a.example', 'A', ['1'], ['1'], 'right')] }, 'certificate');
    await press('Order it now');
    await isShown(() => expect(server.sentTo(addressApi.orderCertificate)).toEqual([{ zone: 'a.example' }]));
  });

  it('is told as it is served, by whom and until when', async () => {
    await show(SERVED, 'certificate');
    expect(title()).toBe('https is served');
    expect(readPageText()).toContain('Tarn R1 → Tarn Root');
    expect(readPageText()).toContain('60 days left');
    expect(document.querySelector('.life')?.getAttribute('aria-label')).toContain('33 percent of its life is over');
  });

  it('lets https be for everybody, and HSTS only once it is understood', async () => {
    server.answers(addressApi.settings, { ...SERVED, domain: { ...DOMAIN, forceHttps: true, hstsSeconds: 86400 } });
    await show(SERVED, 'certificate');
    expect(findButton('one day, to try')?.disabled).toBe(true);
    tick('https will be served here');
    await isShown(() => expect(findButton('one day, to try')?.disabled).toBe(false));
    await press('one day, to try');
    await isShown(() => expect(readPageText()).toContain('Sent, for 1 day.'));
    tick('http goes to https');
    await isShown(() =>
      expect(server.sentTo(addressApi.settings)).toEqual([{ hstsSeconds: 86400 }, { forceHttps: false }]),
    );
  });

  it('is none of ours where the host serves its own', async () => {
    await show({ ...SERVED, hostNaming: false }, 'certificate');
    expect(readPageText()).toContain('This host serves its own certificate');
    expect(findButton('Order a new one now')).toBeUndefined();
  });
});

describe('the registration', () => {
  it('is let go only after a second word', async () => {
    server.answers(addressApi.leave, { ...ADDRESS_VIEW, domain: null, chain: [], firstBroken: null });
    await show({}, 'registration');
    await isShown(() => expect(findButton('Let a.example go')).toBeDefined());
    await press('Let a.example go');
    await press('Keep it');
    expect(server.asked.some(({ endpoint }) => endpoint === addressApi.leave)).toBe(false);
    await press('Let a.example go');
    await press('Let it go');
    await isShown(() => expect(useNotices().notice?.text).toContain('no longer leads to this site'));
    expect(title()).toBe('A name for the site');
  });

  it('is read, not changed, by somebody who only looks', async () => {
    await show({ changes: [CHANGE] }, 'registration', 'reviewer');
    expect(findButton('Let a.example go')).toBeUndefined();
    expect(findButton('Connect')).toBeUndefined();
    document.querySelector<HTMLElement>('#link-records')?.click();
    await isShown(() => expect(title()).toBe('Next: put one record right'));
    expect(findButton('Look againA')).toBeUndefined();
    expect([...document.querySelectorAll<HTMLInputElement>('[name=main]')].every(({ disabled }) => disabled)).toBe(
      true,
    );
  });
});
