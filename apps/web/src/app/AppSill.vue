<script setup lang="ts">
/** The bottom bar: live against draft, and the way to publish. */
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import KeyHint from '../components/KeyHint.vue';
import KeystoneMark from '../components/KeystoneMark.vue';
import { count, dayInWords, figure, when } from '../logic/format.ts';
import { useSite } from '../stores/site.ts';
import { useWorld } from '../stores/world.ts';

defineEmits<{ history: [] }>();
const world = useWorld();
const site = useSite();
const route = useRoute();
const changeCount = computed(() => site.changes?.changes.length ?? 0);
const draftWords = computed(() => {
  if (!site.overview || site.overview.files === 0) return 'nothing brought in yet';
  if (!site.changes) return 'reckoning what differs …';
  if (site.changes.sinceRelease === null) return `${count(site.changes.whole.files, 'file')} to go live`;
  return changeCount.value === 0 ? 'same as live' : `${count(changeCount.value, 'change')} for visitors`;
});
</script>

<template>
  <footer v-if="site.overview" class="sill">
    <span class="part">
      <KeystoneMark :mark="site.overview.live && site.overview.live.downSince === null ? 'verdigris' : 'dashed'" />
      <span v-if="site.overview.live?.downSince"
        ><b>Down</b> since {{ dayInWords(site.overview.live.downSince) }}, release {{ site.overview.live.number }}</span
      >
      <span v-else
        ><b>Live</b>
        {{
          site.overview.live
            ? `release ${site.overview.live.number}, ${when(site.overview.live.at, world.now)}`
            : 'not yet'
        }}</span
      >
    </span>
    <span class="arrow" aria-hidden="true">→</span>
    <span class="part">
      <KeystoneMark :mark="changeCount > 0 || !site.overview.live ? 'ochre' : 'verdigris'" />
      <span><b>Draft</b> {{ draftWords }}</span>
    </span>
    <button v-if="site.overview.version > 0" class="text-link history" type="button" @click="$emit('history')">
      History
    </button>
    <span class="gap" />
    <RouterLink v-if="site.overview.snags.must > 0" class="must" :to="{ name: 'survey', query: { show: 'must' } }"
      ><KeystoneMark mark="madder" /><span
        ><b>{{ figure(site.overview.snags.must) }}</b> must be fixed</span
      ></RouterLink
    >
    <span v-if="site.overview.snags.checking" class="quiet" role="status">checking …</span>
    <RouterLink v-if="site.overview.snags.look > 0" class="look" :to="{ name: 'survey', query: { show: 'look' } }"
      >{{ figure(site.overview.snags.look) }} worth a look</RouterLink
    >
    <template v-if="route.name !== 'publish' && site.overview.files > 0">
      <v-btn variant="flat" color="primary" :to="{ name: 'publish' }">Review and publish</v-btn>
      <KeyHint class="wide-only" keys="G P" />
    </template>
  </footer>
</template>

<style scoped>
.sill {
  flex: none;
  height: 52px;
  box-sizing: border-box;
  display: flex;
  align-items: center;
  gap: 16px;
  padding-inline: 20px;
  background: var(--stone-1);
  border-top: 2px solid var(--ink-9);
  white-space: nowrap;
}
.part {
  display: flex;
  align-items: center;
  gap: 5px;
  min-width: 0;
}
.part > span {
  overflow: hidden;
  text-overflow: ellipsis;
}
.arrow {
  color: var(--ink-5);
}
.gap {
  flex: 1;
}
.history {
  font-size: 12px;
  color: var(--ink-5);
}
.look {
  font-size: 12px;
  color: var(--ink-5);
  text-decoration: none;
}
.must {
  display: flex;
  align-items: center;
  gap: 5px;
  color: inherit;
  text-decoration: none;
}
.look:hover,
.must:hover {
  text-decoration: underline;
}
@media (max-width: 699px) {
  .sill {
    gap: 8px;
    padding-inline: 12px;
  }
  .wide-only,
  .look,
  .arrow {
    display: none;
  }
}
</style>
