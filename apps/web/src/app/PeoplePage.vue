<script setup lang="ts">
/** Who has access, in which role; owners invite, say who sees what, and take access away. */
import { peopleApi, type People } from '@fastigium/contracts/api/people';
import { sitesApi, type SiteSummary } from '@fastigium/contracts/api/sites';
import { computed, onMounted, ref } from 'vue';
import { call } from '../api/client.ts';
import { count, dayOf } from '../logic/format.ts';
import { useNotices } from '../stores/notices.ts';
import { useSession } from '../stores/session.ts';
import InviteBench from './InviteBench.vue';
import MemberBench from './MemberBench.vue';
import PersonRow from './PersonRow.vue';
import { asRole, ROLE_WORDS } from './roles.ts';
import TwoSides from './TwoSides.vue';

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
    notices.done('The invitation is taken back');
    await read();
  } catch (error) {
    notices.problem(error);
  }
}

function words({ role, access }: People['members'][number]): string {
  const seen = access?.sites;
  return seen ? `${ROLE_WORDS[role]}; ${seen.length === 0 ? 'no site' : count(seen.length, 'site')}` : ROLE_WORDS[role];
}
</script>

<template>
  <TwoSides>
    <h1 class="title-face">People{{ people ? ` of ${people.team}` : '' }}</h1>
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
        :about="`${each.email}, since ${dayOf(each.since)}`"
        :role="each.role"
        :words="words(each)"
      />
    </component>
    <template v-if="(people?.invitations.length ?? 0) > 0">
      <h2 class="heading">Invited, not here yet</h2>
      <div v-for="open in people?.invitations ?? []" :key="open.id" class="row invited">
        <PersonRow
          initials="?"
          :name="`as ${open.role}`"
          :about="`by ${open.by}`"
          role=""
          :words="`good until ${dayOf(open.until)}`"
          is-open
        />
        <button v-if="session.isOwner" class="text-link" type="button" @click="withdraw(open.id)">Take it back</button>
      </div>
    </template>
    <div v-if="session.isOwner" class="row foot">
      <RouterLink class="text-link" :to="{ name: 'trail' }">Who did what: the audit trail</RouterLink>
    </div>
    <template #bench>
      <template v-if="member">
        <p><button class="text-link" type="button" @click="chosen = undefined">Invite somebody instead</button></p>
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
        <h2 class="title-face">Your access</h2>
        <p>You are {{ session.person ? asRole(session.person.role) : '' }}.</p>
        <p class="quiet">An owner of the team can change it.</p>
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
