<script setup lang="ts">
/** One person of the team, for an owner: role, sites, a new password, the way out. */
import { peopleApi, type People } from '@fastigium/contracts/api/people';
import type { SiteSummary } from '@fastigium/contracts/api/sites';
import { ROLES, type Role } from '@fastigium/contracts/endpoint';
import { ref, watch } from 'vue';
import { call } from '../api/client.ts';
import SegmentedChoice from '../components/SegmentedChoice.vue';
import { count, when } from '../logic/format.ts';
import { useNotices } from '../stores/notices.ts';
import { useAttempt } from './attempt.ts';
import OneTimeLink from './OneTimeLink.vue';
import { ROLE_WORDS } from './roles.ts';
import SeenSites from './SeenSites.vue';
import { inBackground } from '../stores/background.ts';

type Member = People['members'][number];
const props = defineProps<{ member: Member; sites: readonly SiteSummary[]; isSelf: boolean }>();
const emit = defineEmits<{ changed: []; close: [] }>();
const notices = useNotices();
const { problem, attempt } = useAttempt();
const link = ref('');
const asking = ref<'access' | 'factors'>();
watch(
  () => props.member.id,
  () => {
    link.value = '';
    asking.value = undefined;
    problem.value = '';
  },
);

const params = () => ({ person: props.member.id });
const act = (work: () => Promise<unknown>, words: string) =>
  attempt(async () => {
    await work();
    asking.value = undefined;
    notices.done(words);
    emit('changed');
  });

const setRole = (role: Role) => {
  if (role === props.member.role) return;
  inBackground(act(() => call(peopleApi.setRole, { params: params(), body: { role } }), 'The role holds from now on'));
};
const setSites = (sites: readonly string[] | null) =>
  act(
    () => call(peopleApi.setSites, { params: params(), body: { sites: sites === null ? null : [...sites] } }),
    'That is what they see from now on',
  );
const resetPassword = () =>
  attempt(async () => {
    const { token } = await call(peopleApi.resetPassword, { params: params() });
    link.value = `${location.origin}/reset/${token}`;
  });
const endSessions = () =>
  act(() => call(peopleApi.endSessions, { params: params() }), `${props.member.name} is signed out everywhere`);
const removeFactors = () =>
  act(() => call(peopleApi.removeFactors, { params: params() }), 'They sign in by their password alone now');
const remove = () =>
  act(async () => {
    await call(peopleApi.remove, { params: params() });
    emit('close');
  }, `${props.member.name} has no access any more`);
</script>

<template>
  <h2 class="title-face">{{ member.name }}</h2>
  <p class="address quiet">{{ member.email }}</p>
  <h3 class="heading">Role</h3>
  <SegmentedChoice
    :model-value="member.role"
    :label="`Role of ${member.name}`"
    :options="ROLES.map((each) => ({ value: each, label: each }))"
    @update:model-value="setRole"
  />
  <p>{{ ROLE_WORDS[member.role] }}</p>
  <template v-if="member.role !== 'owner'">
    <h3 class="heading">Sites</h3>
    <SeenSites
      :model-value="member.access?.sites ?? null"
      :sites="sites"
      :only-some="member.role === 'client'"
      @update:model-value="setSites"
    />
  </template>
  <h3 class="heading">Signing in</h3>
  <p>
    {{ member.access?.factors ? count(member.access.factors, 'second factor') : 'No second factor' }};
    {{
      member.access?.sessions
        ? `${count(member.access.sessions, 'session')}, seen ${member.access.lastSeen ? when(member.access.lastSeen, new Date()) : ''}`
        : 'signed in nowhere'
    }}.
  </p>
  <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
  <ul class="acts">
    <li>
      <button class="text-link" type="button" @click="resetPassword">Make a link to set a new password</button>
      <OneTimeLink v-if="link" :link="link" />
    </li>
    <li v-if="member.access?.sessions">
      <button class="text-link" type="button" @click="endSessions">Sign out everywhere</button>
    </li>
    <li v-if="member.access?.factors">
      <button v-if="asking !== 'factors'" class="text-link" type="button" @click="asking = 'factors'">
        Remove second factors that are lost
      </button>
      <template v-else
        ><button class="text-link wrong" type="button" @click="removeFactors">
          Really; the password alone is enough then</button
        >{{ ' ' }}<button class="text-link" type="button" @click="asking = undefined">No</button></template
      >
    </li>
    <li v-if="!isSelf">
      <button v-if="asking !== 'access'" class="text-link" type="button" @click="asking = 'access'">
        Take access away
      </button>
      <template v-else
        ><button class="text-link wrong" type="button" @click="remove">Really, at once</button>{{ ' '
        }}<button class="text-link" type="button" @click="asking = undefined">No</button></template
      >
    </li>
  </ul>
</template>

<style scoped>
.acts {
  list-style: none;
  margin: 0;
  padding: 10px 0 0;
  display: grid;
  gap: 8px;
  border-top: var(--line);
}
.heading {
  margin-top: 14px;
}
</style>
