<script setup lang="ts">
/** One person of the team, for an owner: role, sites, a new password, the way out. */
import { peopleApi, type People } from '@fastigium/contracts/api/people';
import type { SiteSummary } from '@fastigium/contracts/api/sites';
import { ROLES, type Role } from '@fastigium/contracts/endpoint';
import { ref, watch } from 'vue';
import { call } from '../api/client.ts';
import SegmentedChoice from '../components/SegmentedChoice.vue';
import { formatWhen } from '../logic/format.ts';
import { useNotices } from '../stores/notices.ts';
import { useAttempt } from './attempt.ts';
import OneTimeLink from './OneTimeLink.vue';
import { ROLE_NAMES, ROLE_WORDS } from './roles.ts';
import SeenSites from './SeenSites.vue';
import { runInBackground } from '../stores/background.ts';
import { say } from './words.ts';

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

const readParams = () => ({ person: props.member.id });
const runAct = (work: () => Promise<unknown>, words: string) =>
  attempt(async () => {
    await work();
    asking.value = undefined;
    notices.done(words);
    emit('changed');
  });

const setRole = (role: Role) => {
  if (role === props.member.role) return;
  runInBackground(
    runAct(
      () => call(peopleApi.setRole, { params: readParams(), body: { role } }),
      say('memberBench.theRoleHoldsFromNow'),
    ),
  );
};
const setSites = (sites: readonly string[] | null) =>
  runAct(
    () => call(peopleApi.setSites, { params: readParams(), body: { sites: sites === null ? null : [...sites] } }),
    say('memberBench.thatIsWhatTheySee'),
  );
const resetPassword = () =>
  attempt(async () => {
    const { token } = await call(peopleApi.resetPassword, { params: readParams() });
    link.value = `${location.origin}/reset/${token}`;
  });
const endSessions = () =>
  runAct(
    () => call(peopleApi.endSessions, { params: readParams() }),
    say('memberBench.isSignedOutEverywhere', { name: props.member.name }),
  );
const removeFactors = () =>
  runAct(() => call(peopleApi.removeFactors, { params: readParams() }), say('memberBench.theySignInByTheir'));
const remove = () =>
  runAct(
    async () => {
      await call(peopleApi.remove, { params: readParams() });
      emit('close');
    },
    say('memberBench.hasNoAccessAnyMore', { name: props.member.name }),
  );
</script>

<template>
  <h2 class="title-face">{{ member.name }}</h2>
  <p class="address quiet">{{ member.email }}</p>
  <h3 class="heading">{{ say('memberBench.role') }}</h3>
  <SegmentedChoice
    :model-value="member.role"
    :label="say('memberBench.roleOf', { name: member.name })"
    :options="ROLES.map((each) => ({ value: each, label: ROLE_NAMES[each] }))"
    @update:model-value="setRole"
  />
  <p>{{ ROLE_WORDS[member.role] }}</p>
  <template v-if="member.role !== 'owner'">
    <h3 class="heading">{{ say('common.sites') }}</h3>
    <SeenSites
      :model-value="member.access?.sites ?? null"
      :sites="sites"
      :only-some="member.role === 'client'"
      @update:model-value="setSites"
    />
  </template>
  <h3 class="heading">{{ say('memberBench.signingIn') }}</h3>
  <p>
    {{
      say('memberBench.noSecondFactorSignedIn', {
        hasFactors: Boolean(member.access?.factors),
        factors: member.access?.factors,
        hasSessions: Boolean(member.access?.sessions),
        sessions: member.access?.sessions,
        lastSeen: member.access?.lastSeen && formatWhen(member.access.lastSeen, new Date()),
      })
    }}
  </p>
  <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
  <ul class="acts">
    <li>
      <button class="text-link" type="button" @click="resetPassword">{{ say('memberBench.makeALinkToSet') }}</button>
      <OneTimeLink v-if="link" :link="link" />
    </li>
    <li v-if="member.access?.sessions">
      <button class="text-link" type="button" @click="endSessions">{{ say('memberBench.signOutEverywhere') }}</button>
    </li>
    <li v-if="member.access?.factors">
      <button v-if="asking !== 'factors'" class="text-link" type="button" @click="asking = 'factors'">
        {{ say('memberBench.removeSecondFactorsThatAre') }}
      </button>
      <template v-else
        ><button class="text-link wrong" type="button" @click="removeFactors">
          {{ say('memberBench.reallyThePasswordAloneIs') }}</button
        >{{ ' '
        }}<button class="text-link" type="button" @click="asking = undefined">
          {{ say('memberBench.no') }}
        </button></template
      >
    </li>
    <li v-if="!isSelf">
      <button v-if="asking !== 'access'" class="text-link" type="button" @click="asking = 'access'">
        {{ say('memberBench.takeAccessAway') }}
      </button>
      <template v-else
        ><button class="text-link wrong" type="button" @click="remove">{{ say('memberBench.reallyAtOnce') }}</button
        >{{ ' '
        }}<button class="text-link" type="button" @click="asking = undefined">
          {{ say('memberBench.no') }}
        </button></template
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
