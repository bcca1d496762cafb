<script setup lang="ts">
/** Who has access, in which role; owners invite, say who sees what, and take access away. */
import { peopleApi, type People } from '@fastigium/contracts/api/people';
import { sitesApi, type SiteSummary } from '@fastigium/contracts/api/sites';
import { computed, onMounted, ref } from 'vue';
import { call } from '../api/client.ts';
import { readDay } from '../logic/format.ts';
import { useNotices } from '../stores/notices.ts';
import { useSession } from '../stores/session.ts';
import InviteBench from './InviteBench.vue';
import MemberBench from './MemberBench.vue';
import PersonRow from './PersonRow.vue';
import { asRole, ROLE_NAMES, ROLE_WORDS } from './roles.ts';
import TwoSides from './TwoSides.vue';
import { say } from './words.ts';

const session = useSession();
const notices = useNotices();
const people = ref<People>();
const sites = ref<SiteSummary[]>([]);
const chosen = ref<string>();
const member = computed(() => people.value?.members.find(({ id }) => id === chosen.value));

async function read(): Promise<void> {
  try {
    [people.value, sites.value] = await Promise.all([call(peopleApi.list), call(sitesApi.list)]);
  } catch (error) {
    notices.problem(error);
  }
}
onMounted(read);

async function withdraw(invitation: string): Promise<void> {
  try {
    await call(peopleApi.withdraw, { params: { invitation } });
    notices.done(say('peoplePage.theInvitationIsTakenBack'));
    await read();
  } catch (error) {
    notices.problem(error);
  }
}

function saySeat({ role, access }: People['members'][number]): string {
  const seen = access?.sites;
  return seen
    ? say('peoplePage.sites', { role: ROLE_WORDS[role], noSeen: seen.length === 0, seen: seen.length })
    : ROLE_WORDS[role];
}
</script>

<template>
  <TwoSides>
    <h1 class="title-face">{{ say('peoplePage.peopleOf', { hasPeople: Boolean(people), team: people?.team }) }}</h1>
    <component
      :is="session.isOwner ? 'button' : 'div'"
      v-for="each in people?.members ?? []"
      :key="each.id"
      class="row"
      :class="{ chosen: each.id === chosen, clickable: session.isOwner }"
      :aria-pressed="session.isOwner ? each.id === chosen : undefined"
      @click="chosen = session.isOwner && chosen !== each.id ? each.id : undefined"
    >
      <PersonRow
        :initials="each.initials"
        :name="each.name"
        :about="say('peoplePage.since', { email: each.email, since: readDay(each.since) })"
        :role="ROLE_NAMES[each.role]"
        :words="saySeat(each)"
      />
    </component>
    <template v-if="(people?.invitations.length ?? 0) > 0">
      <h2 class="heading">{{ say('peoplePage.invitedNotHereYet') }}</h2>
      <div v-for="open in people?.invitations ?? []" :key="open.id" class="row invited">
        <PersonRow
          initials="?"
          :name="say('peoplePage.as', { role: ROLE_NAMES[open.role] })"
          :about="say('peoplePage.by', { by: open.by })"
          role=""
          :words="say('peoplePage.goodUntil', { until: readDay(open.until) })"
          is-open
        />
        <button v-if="session.isOwner" class="text-link" type="button" @click="withdraw(open.id)">
          {{ say('common.takeItBack') }}
        </button>
      </div>
    </template>
    <div v-if="session.isOwner" class="row foot">
      <RouterLink class="text-link" :to="{ name: 'trail' }">{{ say('peoplePage.whoDidWhatTheAudit') }}</RouterLink>
    </div>
    <template #bench>
      <template v-if="member">
        <p>
          <button class="text-link" type="button" @click="chosen = undefined">
            {{ say('peoplePage.inviteSomebodyInstead') }}
          </button>
        </p>
        <MemberBench
          :member="member"
          :sites="sites"
          :is-self="member.id === session.person?.id"
          @changed="read"
          @close="chosen = undefined"
        />
      </template>
      <InviteBench v-else-if="session.isOwner" :sites="sites" @invited="read" />
      <template v-else>
        <h2 class="title-face">{{ say('peoplePage.yourAccess') }}</h2>
        <p>{{ say('peoplePage.youAre', { person: session.person ? asRole(session.person.role) : '' }) }}</p>
        <p class="quiet">{{ say('peoplePage.anOwnerOfTheTeam') }}</p>
      </template>
    </template>
  </TwoSides>
</template>

<style scoped>
.row {
  display: block;
  width: 100%;
  box-sizing: border-box;
  padding: 9px 28px;
  border: 0;
  border-top: var(--line);
  background: none;
  font: inherit;
  color: inherit;
}
.clickable {
  cursor: pointer;
}
.clickable:hover {
  background: var(--stone-1);
}
.chosen,
.chosen:hover {
  background: var(--lapis-tint);
}
.chosen :deep(.quiet) {
  color: var(--ink-7);
}
.invited {
  display: flex;
  align-items: center;
  gap: 14px;
}
.invited > :first-child {
  flex: 1;
}
.foot {
  padding-top: 18px;
}
</style>
