<script setup lang="ts">
/** Sites that are deleted and can still be taken back. */
import { sitesApi, type GoingSite, type SiteSummary } from '@fastigium/contracts/api/sites';
import { ref } from 'vue';
import { call } from '../api/client.ts';
import KeystoneMark from '../components/KeystoneMark.vue';
import { readDay } from '../logic/format.ts';
import { useNotices } from '../stores/notices.ts';
import { say } from './words.ts';

defineProps<{ sites: readonly GoingSite[] }>();
const emit = defineEmits<{ back: [SiteSummary] }>();
const notices = useNotices();
const taking = ref<string>();

async function takeBack(going: GoingSite): Promise<void> {
  taking.value = going.id;
  try {
    const site = await call(sitesApi.takeBack, { params: { going: going.id } });
    notices.done(
      say('goingSites.isBack', { name: site.name, isRenamed: site.name !== going.name, formerly: going.name }),
    );
    emit('back', site);
  } catch (error) {
    notices.problem(error);
  } finally {
    taking.value = undefined;
  }
}
</script>

<template>
  <h2 class="title-face">{{ say('goingSites.deleted') }}</h2>
  <div v-for="site in sites" :key="site.id" class="going">
    <KeystoneMark mark="dashed" :size="16" />
    <span class="who">
      <span class="name">{{ site.name }}</span>
      <span class="quiet">{{
        say('goingSites.deletedBy', { hasName: site.by !== null, name: site.by ?? '', day: readDay(site.deletedAt) })
      }}</span>
    </span>
    <span class="state">
      <button class="text-link" type="button" :disabled="taking !== undefined" @click="takeBack(site)">
        {{ say('goingSites.takeBack') }}
      </button>
      <span class="quiet">{{ say('goingSites.untilThen', { day: readDay(site.goneAt) }) }}</span>
    </span>
  </div>
</template>

<style scoped>
h2 {
  padding: 30px 28px 8px;
}
.going {
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: 14px;
  align-items: center;
  padding: 10px 28px;
  border-top: var(--line);
}
.going:last-child {
  border-bottom: var(--line);
}
.who,
.state {
  display: grid;
}
.state {
  justify-items: end;
  font-size: 13px;
}
.name {
  font-weight: 600;
  color: var(--ink-5);
}
</style>
