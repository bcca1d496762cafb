/** Who is signed in. */
import { peopleApi } from '@fastigium/contracts/api/people';
import { sessionApi, type Session } from '@fastigium/contracts/api/session';
import type { BodyOf } from '@fastigium/contracts/endpoint';
import { DomainError } from '@fastigium/contracts/errors';
import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { call, setCsrfToken, askWhenSignedOut } from '../api/client.ts';

export const useSession = defineStore('session', () => {
  const session = ref<Session>();

  function take(next: Session): void {
    session.value = next;
    setCsrfToken(next.csrfToken);
  }

  /** Somebody is asked to sign in again over what is open; several that were refused at once wait for the same. */
  const asking = ref<{ readonly email: string; readonly answer: (isBack: boolean) => void }>();
  let asked: Promise<boolean> | undefined;
  askWhenSignedOut(() => {
    const email = session.value?.person?.email;
    if (email === undefined) return Promise.resolve(false);
    asked ??= new Promise<boolean>((resolve) => {
      asking.value = { email, answer: resolve };
    }).finally(() => {
      asking.value = undefined;
      asked = undefined;
    });
    return asked;
  });

  /** The password was right; what is asked for besides. */
  const second = ref<NonNullable<Session['second']>>();

  function enter(next: Session): void {
    second.value = next.second ?? undefined;
    if (next.second) {
      setCsrfToken(next.csrfToken);
      return;
    }
    take(next);
    asking.value?.answer(true);
  }

  return {
    asking,
    second,
    /** Signs the same person in again; rejects where the password is not theirs. */
    async signInAgain(password: string) {
      if (!asking.value) return;
      // The session that ended had a token of its own.
      setCsrfToken((await call(sessionApi.get)).csrfToken);
      enter(await call(sessionApi.signIn, { body: { email: asking.value.email, password } }));
    },
    /** Rejects where it is not theirs; afterwards it can be tried again, until the server wants the password again. */
    async giveSecond(given: Omit<BodyOf<typeof sessionApi.second>, 'step'>) {
      if (!second.value) return;
      try {
        enter(await call(sessionApi.second, { body: { step: second.value.step, ...given } }));
      } catch (error) {
        if (error instanceof DomainError && error.code === 'second-ended') second.value = undefined;
        throw error;
      }
    },
    backToPassword: () => void (second.value = undefined),
    session,
    person: computed(() => session.value?.person ?? null),
    mayEdit: computed(() => ['editor', 'owner'].includes(session.value?.person?.role ?? '')),
    isOwner: computed(() => session.value?.person?.role === 'owner'),
    /** Somebody outside the team, who sees what is shown to them. */
    isClient: computed(() => session.value?.person?.role === 'client'),
    load: async () => take(await call(sessionApi.get)),
    signIn: async (email: string, password: string) =>
      enter(await call(sessionApi.signIn, { body: { email, password } })),
    createOwner: async (name: string, email: string, password: string) =>
      take(await call(sessionApi.createOwner, { body: { name, email, password } })),
    join: async (token: string, name: string, email: string, password: string) =>
      take(await call(peopleApi.join, { params: { token }, body: { name, email, password } })),
    async signOut() {
      await call(sessionApi.signOut);
      take(await call(sessionApi.get));
    },
  };
});
