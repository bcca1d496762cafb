// @vitest-environment jsdom
/** What somebody does to their own account, each time with their password. Secrets and codes are invented. */
import { accountApi, type Factor } from '@fastigium/contracts/api/account';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { useNotices } from '../stores/notices.ts';
import { FakeServer } from '../testing/fakeServer.ts';
import { findField, press, readPageText, send, write } from '../testing/page.ts';
import { isShown, showScreen, SITE } from '../testing/screen.ts';
import AccountBench from './AccountBench.vue';

const CODES = ['aaaa-bbbb', 'cccc-dddd'];
const factor: Factor = {
  id: SITE,
  kind: 'code',
  name: 'Telephone',
  since: '2026-11-01T08:00:00.000Z',
  usedAt: null,
};

let server: FakeServer;
beforeEach(() => {
  server = new FakeServer();
});
afterEach(() => {
  document.body.innerHTML = '';
});
const show = (doing: 'password' | 'code' | 'passkey' | 'recovery' | Factor) =>
  showScreen(AccountBench, { props: { doing } });
async function begin(): Promise<void> {
  await write('What you call it', 'Telephone');
  await write('Your password', 'old-words-here');
  await send();
}
const said = () => useNotices().notice?.text;

describe('one’s own account', () => {
  it('changes the password, told the old one', async () => {
    server.answers(accountApi.changePassword, { done: true });
    const bench = show('password');
    await write('Your current password', 'old-words-here');
    await write('New password', 'a few new words');
    await send();
    await isShown(() => expect(bench.emitted('done')).toHaveLength(1));
    expect(server.sentTo(accountApi.changePassword)).toEqual([{ password: 'old-words-here', next: 'a few new words' }]);
    expect(findField('Your current password').value).toBe('');
  });

  it('says why a password is not taken, and keeps what was typed', async () => {
    server.refuses(accountApi.changePassword, 'password-wrong');
    const bench = show('password');
    await write('Your current password', 'not this one');
    await write('New password', 'a few new words');
    await send();
    await isShown(() => expect(readPageText()).toContain('This is not your password. Nothing was changed'));
    expect(findField('New password').value).toBe('a few new words');
    expect(bench.emitted('done')).toBeUndefined();
  });

  it('takes an app in two steps: its secret as a square and in letters, then a code of it', async () => {
    server.answers(accountApi.beginCodes, {
      factor: SITE,
      secret: 'JBSWY3DPEHPK3PXP',
      uri: 'otpauth://totp/Fastigium:ada?secret=JBSWY3DPEHPK3PXP',
    });
    server.answers(accountApi.proveCodes, { recoveryCodes: CODES });
    const bench = show('code');
    await begin();
    await isShown(() => expect(readPageText()).toContain('JBSW Y3DP EHPK 3PXP'));
    expect(document.querySelector('[role="img"] svg')).not.toBeNull();
    await write('Code the app shows', '123 456');
    await send();
    await isShown(() => expect(readPageText()).toContain('Write these down'));
    expect(server.sentTo(accountApi.proveCodes)).toEqual([{ code: '123456' }]);
    expect([...document.querySelectorAll('.codes li')].map((each) => each.textContent)).toEqual(CODES);
    // They are shown once: the bench is only done when whoever has them says so.
    expect([bench.emitted('changed'), bench.emitted('done')]).toEqual([[[]], undefined]);
    await press('I have them');
    expect(bench.emitted('done')).toHaveLength(1);
  });

  it('is done at once where there were recovery codes before', async () => {
    server.answers(accountApi.beginCodes, {
      factor: SITE,
      secret: 'JBSWY3DP',
      uri: 'otpauth://totp/a?secret=JBSWY3DP',
    });
    server.answers(accountApi.proveCodes, { recoveryCodes: null });
    const bench = show('code');
    await begin();
    await isShown(() => expect(readPageText()).toContain('Code the app shows'));
    await write('Code the app shows', '123456');
    await send();
    await isShown(() => expect(bench.emitted('done')).toHaveLength(1));
  });

  it('makes new recovery codes, and copies them', async () => {
    server.answers(accountApi.newRecoveryCodes, { recoveryCodes: CODES });
    const writeText = vi.fn(() => Promise.resolve());
    Object.defineProperty(navigator, 'clipboard', { value: { writeText }, configurable: true });
    show('recovery');
    await write('Your password', 'old-words-here');
    await send();
    await isShown(() => expect(readPageText()).toContain(CODES[1] ?? ''));
    await press('Copy them');
    await isShown(() => expect(writeText).toHaveBeenCalledWith('aaaa-bbbb\ncccc-dddd'));
    expect(said()).toBe('The codes are copied');
  });

  it('removes a factor by its name, told the password', async () => {
    server.answers(accountApi.removeFactor, { done: true });
    const bench = show(factor);
    expect(readPageText()).toContain('Remove “Telephone”');
    await write('Your password', 'old-words-here');
    await send();
    await isShown(() => expect(bench.emitted('done')).toHaveLength(1));
    expect(server.asked[0]?.params).toEqual({ factor: SITE });
  });

  it('forgets what was typed when something else is done instead', async () => {
    const bench = show('password');
    await write('Your current password', 'old-words-here');
    await bench.setProps({ doing: 'recovery' });
    expect(findField('Your password').value).toBe('');
  });
});
