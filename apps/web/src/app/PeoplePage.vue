<script setup lang="ts">
/** Who has access, in which role; owners invite, change roles and take access away. */
import { peopleApi, type People } from '@fastigium/contracts/api/people';
import { ROLES, type Role } from '@fastigium/contracts/endpoint';
import { onMounted, ref } from 'vue';
import { call } from '../api/client.ts';
import SegmentedChoice from '../components/SegmentedChoice.vue';
import { when } from '../logic/format.ts';
import { useNotices } from '../stores/notices.ts';
import { useSession } from '../stores/session.ts';
import AppLintel from './AppLintel.vue';
import { ROLE_WORDS } from './roles.ts';

const session = useSession();
const notices = useNotices();
const people = ref<People>();
const role = ref<Role>('editor');
const link = ref('');
const asking = ref<string>();

async function act(what: () => Promise<unknown>, words?: string): Promise<void> {
  try {
    await what();
    if (words) notices.done(words);
    people.value = await call(peopleApi.list);
  } catch (error) {
    notices.problem(error);
  }
}
onMounted(() => act(async () => {}));

const invite = () =>
  act(async () => {
    const { token } = await call(peopleApi.invite, { body: { role: role.value, days: 7 } });
    link.value = `${location.origin}/join/${token}`;
  });
const copy = () => act(() => navigator.clipboard.writeText(link.value), 'The link is copied');
const setRole = (person: string, next: Role) =>
  act(() => call(peopleApi.setRole, { params: { person }, body: { role: next } }), 'The role holds from now on');
const remove = (person: string, name: string) =>
  act(() => call(peopleApi.remove, { params: { person } }), `${name} has no access any more`);
const withdraw = (invitation: string) =>
  act(() => call(peopleApi.withdraw, { params: { invitation } }), 'The invitation is taken back');
const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
</script>

<template>
  <div class="frame">
    <AppLintel />
    <main class="middle">
      <section class="list">
        <h1 class="title-face">People{{ people ? ` of ${people.team}` : '' }}</h1>
        <div v-for="member in people?.members ?? []" :key="member.id" class="member">
          <span class="initials" aria-hidden="true">{{ member.initials }}</span>
          <span class="who"
            ><span class="strong">{{ member.name }}</span
            ><span class="quiet">{{ member.email }}</span></span
          >
          <span class="role">
            <select
              v-if="session.isOwner"
              :value="member.role"
              :aria-label="`Role of ${member.name}`"
              @change="setRole(member.id, ($event.target as HTMLSelectElement).value as Role)"
            >
              <option v-for="each in ROLES" :key="each" :value="each">{{ each }}</option>
            </select>
            <span v-else>{{ member.role }}</span>
            <span class="quiet">{{ ROLE_WORDS[member.role] }}</span>
          </span>
          <span class="acts">
            <template v-if="session.isOwner && member.id !== session.person?.id">
              <button v-if="asking !== member.id" class="text-link" type="button" @click="asking = member.id">
                Take access away
              </button>
              <template v-else
                ><button
                  class="text-link wrong"
                  type="button"
                  @click="((asking = undefined), remove(member.id, member.name))"
                >
                  Really, at once</button
                >{{ ' ' }} <button class="text-link" type="button" @click="asking = undefined">No</button></template
              >
            </template>
          </span>
        </div>
        <template v-if="(people?.invitations.length ?? 0) > 0">
          <h2 class="heading open">Invited, not here yet</h2>
          <div v-for="open in people?.invitations ?? []" :key="open.id" class="member">
            <span class="initials dashed" aria-hidden="true">?</span>
            <span class="who"
              ><span>as {{ open.role }}</span
              ><span class="quiet">by {{ open.by }}</span></span
            >
            <span class="role quiet">good until {{ day.format(new Date(open.until)) }}</span>
            <span class="acts"
              ><button v-if="session.isOwner" class="text-link" type="button" @click="withdraw(open.id)">
                Take it back
              </button></span
            >
          </div>
        </template>
      </section>
      <aside class="bench">
        <template v-if="session.isOwner">
          <h2 class="title-face">Invite somebody</h2>
          <p class="quiet">The link is good for one person and seven days.</p>
          <SegmentedChoice v-model="role" label="Role" :options="ROLES.map((each) => ({ value: each, label: each }))" />
          <p>{{ ROLE_WORDS[role] }}</p>
          <v-btn variant="flat" color="primary" @click="invite">Make a link</v-btn>
          <template v-if="link">
            <p class="address link">{{ link }}</p>
            <p class="quiet">
              It is shown only now; send it to the person.
              <button class="text-link" type="button" @click="copy">Copy it</button>
            </p>
          </template>
        </template>
        <template v-else>
          <h2 class="title-face">Your access</h2>
          <p>You are {{ session.person?.role }}: {{ session.person ? ROLE_WORDS[session.person.role] : '' }}.</p>
        </template>
        <p class="quiet since">
          Here since
          {{
            when(
              people?.members.find(({ id }) => id === session.person?.id)?.since ?? new Date().toISOString(),
              new Date(),
            )
          }}. <RouterLink class="text-link" :to="{ name: 'sites' }">All sites</RouterLink>
        </p>
      </aside>
    </main>
  </div>
</template>

<style scoped>
.frame {
  height: 100dvh;
  display: flex;
  flex-direction: column;
}
.middle {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-wrap: wrap;
  overflow: auto;
}
.list {
  flex: 1 1 560px;
  padding: 24px 0;
  background: var(--paper);
}
.list > h1 {
  padding-inline: 28px;
  margin-bottom: 14px;
}
.open {
  padding: 22px 28px 0;
}
.member {
  display: grid;
  grid-template-columns: 34px minmax(0, 4fr) minmax(0, 4fr) 170px;
  gap: 14px;
  align-items: center;
  padding: 9px 28px;
  border-top: var(--line);
}
.initials {
  width: 32px;
  height: 32px;
  display: grid;
  place-items: center;
  border: 1px solid var(--ink-7);
  border-radius: 3px;
  font-size: 12px;
  font-weight: 600;
}
.dashed {
  border-style: dashed;
  color: var(--ink-5);
}
.who,
.role {
  display: grid;
}
.acts {
  text-align: right;
}
select {
  font: inherit;
  font-size: 13px;
  padding: 3px 6px;
  border: 1px solid var(--stone-3);
  border-radius: 2px;
  background: var(--bench);
  color: inherit;
  justify-self: start;
}
.bench {
  flex: 0 1 420px;
  min-width: 320px;
  padding: 24px 28px;
  background: var(--bench);
  border-left: 1px solid var(--stone-3);
  box-sizing: border-box;
}
.bench p {
  margin: 8px 0 12px;
}
.link {
  overflow-wrap: anywhere;
  padding: 8px 10px;
  background: var(--stone-1);
  border: var(--line);
  border-radius: 3px;
}
.since {
  padding-top: 10px;
  border-top: var(--line);
}
@media (max-width: 799px) {
  .member {
    grid-template-columns: 34px 1fr;
  }
  .role,
  .acts {
    grid-column: 2;
    text-align: left;
  }
}
</style>
