// @vitest-environment jsdom
/** The entrance: signing in, a second factor, a forgotten password, the first owner. */
import { peopleApi } from '@fastigium/contracts/api/people';
import { sessionApi, type Session } from '@fastigium/contracts/api/session';
import { beforeEach, describe, expect, it } from 'vitest';
import { useSession } from '../stores/session.ts';
import { FakeServer } from '../testing/fakeServer.ts';
import { findField, findButton, readPageText, press, send, write } from '../testing/page.ts';
import { isShown, showScreen, SITE } from '../testing/screen.ts';
import SignIn from './SignIn.vue';

const nobody: Session = { person: null, csrfToken: 't', needsOwner: false, demo: null, hasMail: true, second: null };
const ada: Session = {
  ...nobody,
  person: { id: SITE, name: 'Ada Stone', initials: 'AS', email: 'ada@moor.example', role: 'owner' },
};

let server: FakeServer;
beforeEach(() => {
  server = new FakeServer();
});
const show = (more: Partial<Session> = {}) => showScreen(SignIn, { session: { ...nobody, ...more } });
async function signIn(): Promise<void> {
  await write('E-mail', 'ada@moor.example');
  await write('Password', 'a long enough one');
  await send();
}

describe('the entrance', () => {
  it('takes an address and a password, and lets in', async () => {
    show();
    server.answers(sessionApi.signIn, ada);
    await signIn();
    await isShown(() => expect(useSession().person?.name).toBe('Ada Stone'));
    expect(server.sentTo(sessionApi.signIn)).toEqual([{ email: 'ada@moor.example', password: 'a long enough one' }]);
  });

  it('says what was wrong, and keeps what was typed', async () => {
    show();
    server.refuses(sessionApi.signIn, 'sign-in-wrong');
    await signIn();
    await isShown(() => expect(document.querySelector('p.wrong')?.textContent).toMatch(/password/i));
    expect(findField('E-mail').value).toBe('ada@moor.example');
    expect(useSession().person).toBeNull();
  });

  it('asks for a code where there is a second factor, and goes back to the password', async () => {
    show();
    server.answers(sessionApi.signIn, {
      ...nobody,
      second: { step: 'step-1', hasCodes: true, hasRecoveryCodes: true, passkey: null },
    });
    await signIn();
    await isShown(() => expect(readPageText()).toContain('Your password was right'));
    const [label] = [...document.querySelectorAll('label')].map(({ textContent }) => textContent.trim());
    expect(findButton('Sign in')?.disabled).toBe(true);
    await write(label ?? '', '123456');
    server.refuses(sessionApi.second, 'second-wrong');
    await send();
    await isShown(() => expect(document.querySelector('p.wrong')).not.toBeNull());
    server.answers(sessionApi.second, ada);
    await send();
    await isShown(() => expect(useSession().person?.name).toBe('Ada Stone'));
    expect(server.sentTo(sessionApi.second)).toEqual([
      { step: 'step-1', code: '123456' },
      { step: 'step-1', code: '123456' },
    ]);
  });

  it('sends a link to set a new password, without saying whether the address is known', async () => {
    show();
    await press('You have forgotten it?');
    await write('E-mail', 'somebody@moor.example');
    server.answers(peopleApi.forgot, { done: true });
    await send();
    await isShown(() => expect(readPageText()).toMatch(/If somebody with the address somebody@moor\.example/));
    expect(server.sentTo(peopleApi.forgot)).toEqual([{ email: 'somebody@moor.example' }]);
    await press('Back to the password');
    expect(findButton('Sign in')).toBeDefined();
  });

  it('offers no link where no mail is sent, and fills in what the demo has', async () => {
    show({ hasMail: false, demo: { email: 'ines@demo.example', password: 'gable and keystone' } });
    expect(readPageText()).not.toContain('forgotten');
    expect(readPageText()).toContain('ines@demo.example');
  });

  it('creates the first owner where nobody is here yet', async () => {
    show({ needsOwner: true });
    expect(readPageText()).toContain('Nobody is here yet');
    expect(findField('E-mail').value).toBe('');
    await write('Your name', 'Ada Stone');
    await write('E-mail', 'ada@moor.example');
    await write('Password', 'a long enough one');
    server.answers(sessionApi.createOwner, ada);
    await send();
    await isShown(() => expect(useSession().person?.name).toBe('Ada Stone'));
    expect(server.sentTo(sessionApi.createOwner)).toEqual([
      { name: 'Ada Stone', email: 'ada@moor.example', password: 'a long enough one' },
    ]);
  });
});
