<script setup lang="ts">
/** The top bar: the house, the site, finding, the person. */
import { useIntervalFn } from '@vueuse/core';
import { onMounted } from 'vue';
import { useRouter } from 'vue-router';
import GableMark from '../components/GableMark.vue';
import KeyHint from '../components/KeyHint.vue';
import { useSession } from '../stores/session.ts';
import type { SiteOverview } from '@fastigium/contracts/api/sites';
import { useWorld } from '../stores/world.ts';
import { useNotices } from '../stores/notices.ts';
import { runInBackground } from '../stores/background.ts';
import { ROLE_NAMES } from './roles.ts';
import { say } from './words.ts';

defineEmits<{ find: []; standIns: [] }>();
const session = useSession();
defineProps<{ /** The open one. */ site?: SiteOverview | undefined }>();
const notices = useNotices();
const router = useRouter();
const world = useWorld();
// The demo's clock is no client's.
onMounted(() => {
  if (!session.isClient) runInBackground(world.read());
});
// Somebody else may let it run on; where the internet is a real one there is none to ask for.
useIntervalFn(() => {
  if (world.clock) runInBackground(world.read());
}, 20_000);

async function signOut(): Promise<void> {
  try {
    await session.signOut();
    await router.push({ name: 'sign-in' });
  } catch (error) {
    notices.problem(error);
  }
}
</script>

<template>
  <header class="lintel">
    <RouterLink class="house" :to="{ name: 'sites' }" :title="say('appLintel.allSites')"
      ><GableMark /><span>{{ say('appLintel.fastigium') }}</span></RouterLink
    >
    <template v-if="site">
      <span class="part" aria-hidden="true" />
      <span class="name one-line">{{ site.name }}</span>
      <RouterLink v-if="site.address" class="address live" :to="{ name: 'address' }">{{
        site.address.main
      }}</RouterLink>
      <a v-else-if="site.liveUrl" class="address live" :href="site.liveUrl" target="_blank" rel="noopener">{{
        site.liveUrl.replace(/^http:\/\/|\/$/g, '')
      }}</a>
      <span v-else class="address live">{{ say('common.notLiveYet') }}</span>
    </template>
    <span class="gap" />
    <button v-if="site" class="find" type="button" @click="$emit('find')">
      {{ say('appLintel.findOrDo') }}<KeyHint keys="Ctrl K" />
    </button>
    <button
      v-if="world.clock"
      class="find wide-only"
      type="button"
      :title="say('appLintel.theStandInsTheirClock')"
      @click="$emit('standIns')"
    >
      {{ say('appLintel.worldClock', { time: world.time }) }}
    </button>
    <v-menu v-if="session.person">
      <template #activator="{ props: menu }">
        <button
          class="find"
          type="button"
          v-bind="menu"
          :aria-label="say('appLintel.account', { name: session.person.name })"
        >
          {{ session.person.initials }}
        </button>
      </template>
      <v-sheet class="panel">
        <p class="strong">{{ session.person.name }}</p>
        <p class="quiet">{{ session.person.email }}, {{ ROLE_NAMES[session.person.role] }}</p>
        <RouterLink class="text-link" :to="{ name: 'account' }">{{ say('appLintel.yourAccount') }}</RouterLink>
        <RouterLink v-if="!session.isClient" class="text-link" :to="{ name: 'people' }">{{
          say('appLintel.people')
        }}</RouterLink>
        <button class="text-link" type="button" @click="signOut">{{ say('appLintel.signOut') }}</button>
      </v-sheet>
    </v-menu>
  </header>
</template>

<style scoped>
.lintel {
  flex: none;
  height: 44px;
  display: flex;
  align-items: center;
  gap: 16px;
  padding-inline: 20px;
  background: var(--lintel);
  color: var(--on-lintel);
}
.house {
  display: flex;
  align-items: center;
  gap: 9px;
  color: inherit;
  text-decoration: none;
  font-family: var(--face-title);
  font-size: 20px;
  letter-spacing: 0.4px;
}
.part {
  width: 1px;
  height: 20px;
  background: var(--lintel-quiet);
  opacity: 0.4;
}
.name {
  font-weight: 600;
}
.live {
  color: var(--lintel-quiet);
  text-decoration: none;
  font-size: 12px;
  white-space: nowrap;
}
a.live:hover {
  text-decoration: underline;
}
.gap {
  flex: 1;
}
.find {
  background: none;
  border: 0;
  padding: 4px 0;
  font: inherit;
  color: var(--lintel-quiet);
  cursor: pointer;
  white-space: nowrap;
}
.find:hover {
  color: var(--on-lintel);
}
.panel {
  padding: 12px 16px;
  max-width: 320px;
  display: grid;
  gap: 8px;
  justify-items: start;
}
.panel p {
  margin: 0;
}
@media (max-width: 699px) {
  .wide-only,
  .live,
  .part {
    display: none;
  }
  .lintel {
    gap: 12px;
    padding-inline: 12px;
  }
  .house span {
    display: none;
  }
}
</style>
