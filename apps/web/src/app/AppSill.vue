<script setup lang="ts">
/** The bottom bar: live against draft, and the way to publish. */
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import KeyHint from '../components/KeyHint.vue';
import KeystoneMark from '../components/KeystoneMark.vue';
import { formatDay, formatWhen } from '../logic/format.ts';
import { useSite } from '../stores/site.ts';
import { useWorld } from '../stores/world.ts';
import { say } from './words.ts';
import RichWords from '../words/RichWords.ts';

defineEmits<{ history: [] }>();
const world = useWorld();
const site = useSite();
const route = useRoute();
const changeCount = computed(() => site.changes?.changes.length ?? 0);
const draftWords = computed(() => {
  if (!site.overview || site.overview.files === 0) return say('appSill.nothingBroughtInYet');
  if (!site.changes) return say('appSill.reckoningWhatDiffers');
  if (site.changes.sinceRelease === null) return say('appSill.filesToGoLive', { files: site.changes.whole.files });
  return changeCount.value === 0
    ? say('appSill.sameAsLive')
    : say('appSill.changesForVisitors', { changeCount: changeCount.value });
});
</script>

<template>
  <footer v-if="site.overview" class="sill">
    <span class="part">
      <KeystoneMark :mark="site.overview.live && site.overview.live.downSince === null ? 'verdigris' : 'dashed'" />
      <span v-if="site.overview.live?.downSince"
        ><RichWords
          :words="
            say.parts('appSill.downSinceRelease', {
              downSince: formatDay(site.overview.live.downSince),
              number: site.overview.live.number,
            })
          "
      /></span>
      <span v-else
        ><b>{{ say('appSill.live') }}</b>
        {{
          site.overview.live
            ? say('appSill.release', {
                number: site.overview.live.number,
                at: formatWhen(site.overview.live.at, world.now),
              })
            : say('appSill.notYet')
        }}</span
      >
    </span>
    <span class="arrow" aria-hidden="true">→</span>
    <span class="part">
      <KeystoneMark :mark="changeCount > 0 || !site.overview.live ? 'ochre' : 'verdigris'" />
      <span
        ><b>{{ say('appSill.draft') }}</b> {{ draftWords }}</span
      >
    </span>
    <button v-if="site.overview.version > 0" class="text-link history" type="button" @click="$emit('history')">
      {{ say('appSill.history') }}
    </button>
    <span class="gap" />
    <RouterLink v-if="site.overview.snags.must > 0" class="must" :to="{ name: 'survey', query: { show: 'must' } }"
      ><KeystoneMark mark="madder" /><span
        ><RichWords :words="say.parts('appSill.mustBeFixed', { must: site.overview.snags.must })" /></span
    ></RouterLink>
    <span v-if="site.overview.snags.checking" class="quiet" role="status">{{ say('appSill.checking') }}</span>
    <RouterLink
      v-if="site.overview.snags.should > 0"
      class="caution"
      :to="{ name: 'survey', query: { show: 'should' } }"
      >{{ say('appSill.worthALook', { look: site.overview.snags.should }) }}</RouterLink
    >
    <template v-if="route.name !== 'publish' && site.overview.files > 0">
      <v-btn variant="flat" color="primary" :to="{ name: 'publish' }">{{ say('appSill.reviewAndPublish') }}</v-btn>
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
.caution {
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
.caution:hover,
.must:hover {
  text-decoration: underline;
}
@media (max-width: 699px) {
  .sill {
    gap: 8px;
    padding-inline: 12px;
  }
  .wide-only,
  .caution,
  .arrow {
    display: none;
  }
}
</style>
