/** Who is signed in. */
import { peopleApi } from '@fastigium/contracts/api/people';
import { sessionApi, type Session } from '@fastigium/contracts/api/session';
import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { call, setCsrfToken } from '../api/client.ts';

export const useSession = defineStore('session', () => {
  const session = ref<Session>();

  function take(next: Session): void {
    session.value = next;
    setCsrfToken(next.csrfToken);
  }

  return {
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
