<script setup lang="ts">
/** One thing as a release had it, side by side with today's, and the ways to take it. */
import type { ReleaseThingDetail } from '@fastigium/contracts/api/removals';
import type { TakeRequest } from '@fastigium/contracts/decisions/removals';
import { computed } from 'vue';
import KeystoneMark from '../../../components/KeystoneMark.vue';
import SourceLines from '../../../components/SourceLines.vue';
import { formatSize } from '../../../logic/format.ts';
import { useSession } from '../../../stores/session.ts';
import { useSite } from '../../../stores/site.ts';
import SideBySide from './SideBySide.vue';
import { runInBackground } from '../../../stores/background.ts';
import { say } from '../words.ts';
import RichWords from '../../../words/RichWords.ts';

const props = defineProps<{ thing: ReleaseThingDetail; release: number; version: number }>();
const site = useSite();
const session = useSession();
const take = (what: TakeRequest['take']) =>
  runInBackground(
    site.decide({ kind: 'take-from-release', release: props.release, path: props.thing.path, take: what }),
  );
const putBack = (of: number) =>
  runInBackground(site.decide({ kind: 'put-back', things: [{ of }], where: 'in-place', taken: 'stop' }));
const isPage = computed(() => props.thing.kind === 'page');
const lost = computed(() => props.thing.sections.filter(({ today }) => !today));
</script>

<template>
  <h1 class="title-face">{{ thing.label }}</h1>
  <p class="quiet">
    <RichWords
      :words="
        say.parts('releaseThingBench.inRelease', { at: thing.address, release, sizeBytes: formatSize(thing.sizeBytes) })
      "
    />
  </p>
  <SideBySide
    v-if="isPage"
    :then="thing.address"
    :today="thing.addressToday ?? undefined"
    :release="release"
    :version="version"
    :name="thing.label"
  />
  <template v-if="session.mayEdit">
    <div class="acts">
      <template v-if="thing.removal !== null">
        <p class="quiet">
          {{ say('releaseThingBench.itIsRemovedAndNot') }}
        </p>
        <v-btn variant="flat" color="primary" @click="putBack(thing.removal)">{{ say('common.putBack') }}</v-btn>
      </template>
      <v-btn
        v-if="thing.addressToday !== null"
        :variant="thing.removal === null ? 'flat' : 'outlined'"
        :color="thing.removal === null ? 'primary' : undefined"
        @click="take({ kind: 'instead' })"
        >{{ isPage ? say('releaseThingBench.giveTodaysPageThisText') : say('releaseThingBench.putItInPlaceOf') }}</v-btn
      >
      <v-btn
        :variant="thing.addressToday === null && thing.removal === null ? 'flat' : 'outlined'"
        :color="thing.addressToday === null && thing.removal === null ? 'primary' : undefined"
        @click="take({ kind: 'beside' })"
        >{{
          thing.addressToday === null
            ? isPage
              ? say('releaseThingBench.takeItAsAPage')
              : say('releaseThingBench.takeTheFile')
            : isPage
              ? say('releaseThingBench.takeItAsAPage2')
              : say('releaseThingBench.takeItBeside')
        }}</v-btn
      >
    </div>
    <p class="quiet">
      {{ isPage ? say('releaseThingBench.itsTextComesAsIt') : say('releaseThingBench.pagesGoOnLoadingIt') }}
    </p>
  </template>
  <template v-if="thing.addressToday !== null && lost.length > 0">
    <h2 class="heading">{{ say('releaseThingBench.sectionsThatTodaysPageLacks') }}</h2>
    <ul>
      <li v-for="section in lost" :key="`${section.nth} ${section.name}`">
        <KeystoneMark mark="dashed" /><span class="one-line" :title="section.name">{{ section.name }}</span
        ><button
          v-if="session.mayEdit && section.removal !== null"
          class="text-link"
          type="button"
          @click="putBack(section.removal)"
        >
          {{ say('common.putBack') }}</button
        ><button
          v-else-if="session.mayEdit"
          class="text-link"
          type="button"
          @click="take({ kind: 'section', section: { name: section.name, nth: section.nth } })"
        >
          {{ say('releaseThingBench.putIntoThePage') }}
        </button>
      </li>
    </ul>
  </template>
  <template v-if="thing.lines.length > 0">
    <h2 class="heading">{{ say('releaseThingBench.sourceReleaseToToday', { release }) }}</h2>
    <SourceLines class="lines" :lines="thing.lines" />
  </template>
</template>

<style scoped>
p {
  margin: 2px 0 10px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin: 12px 0 6px;
}
.acts p {
  width: 100%;
  margin: 0;
}
.heading {
  margin-top: 14px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: var(--line);
}
li {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 34px;
  border-bottom: var(--line);
}
li > .one-line {
  flex: 1;
}
.lines {
  max-height: 300px;
  overflow: auto;
}
</style>
