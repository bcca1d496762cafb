/** Who is signed in. */
import { peopleApi } from '@fastigium/contracts/api/people';
import { sessionApi, type Session } from '@fastigium/contracts/api/session';
import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { call, setCsrfToken, whenSignedOut } from '../api/client.ts';

export const useSession = defineStore('session', () => {
  const session = ref<Session>();

  function take(next: Session): void {
    session.value = next;
    setCsrfToken(next.csrfToken);
  }

  /** Somebody is asked to sign in again over what is open; several that were refused at once wait for the same. */
  const asking = ref<{ readonly email: string; readonly answer: (isBack: boolean) => void }>();
  let asked: Promise<boolean> | undefined;
  whenSignedOut(() => {
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

  return {
    asking,
    /** Signs the same person in again; rejects where the password is not theirs. */
    async signInAgain(password: string) {
      if (!asking.value) return;
      const { email, answer } = asking.value;
      // The session that ended had a token of its own.
      setCsrfToken((await call(sessionApi.get)).csrfToken);
      take(await call(sessionApi.signIn, { body: { email, password } }));
      answer(true);
    },
    session,
    person: computed(() => session.value?.person ?? null),
    mayEdit: computed(() => session.value?.person != null && session.value.person.role !== 'reviewer'),
    isOwner: computed(() => session.value?.person?.role === 'owner'),
    load: async () => take(await call(sessionApi.get)),
    signIn: async (email: string, password: string) =>
      take(await call(sessionApi.signIn, { body: { email, password } })),
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
