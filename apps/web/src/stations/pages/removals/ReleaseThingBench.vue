<script setup lang="ts">
/** One thing as a release had it, side by side with today's, and the ways to take it. */
import type { ReleaseThingDetail } from '@fastigium/contracts/api/removals';
import type { TakeRequest } from '@fastigium/contracts/api/removalRequests';
import { computed } from 'vue';
import KeystoneMark from '../../../components/KeystoneMark.vue';
import SourceLines from '../../../components/SourceLines.vue';
import { size } from '../../../logic/format.ts';
import { useSession } from '../../../stores/session.ts';
import { useSite } from '../../../stores/site.ts';
import SideBySide from './SideBySide.vue';
import { inBackground } from '../../../stores/background.ts';

const props = defineProps<{ thing: ReleaseThingDetail; release: number; version: number }>();
const site = useSite();
const session = useSession();
const take = (what: TakeRequest['take']) =>
  inBackground(site.decide({ kind: 'take-from-release', release: props.release, path: props.thing.path, take: what }));
const putBack = (of: number) =>
  inBackground(site.decide({ kind: 'put-back', things: [{ of }], where: 'in-place', taken: 'stop' }));
const isPage = computed(() => props.thing.kind === 'page');
const lost = computed(() => props.thing.sections.filter(({ today }) => !today));
</script>

<template>
  <h1 class="title-face">{{ thing.label }}</h1>
  <p class="quiet">
    <span class="address">{{ thing.address }}</span> in release {{ release }}, {{ size(thing.sizeBytes) }}
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
          It is removed and not yet gone: putting it back gives it its menu items, metadata and links as well.
        </p>
        <v-btn variant="flat" color="primary" @click="putBack(thing.removal)">Put back</v-btn>
      </template>
      <v-btn
        v-if="thing.addressToday !== null"
        :variant="thing.removal === null ? 'flat' : 'outlined'"
        :color="thing.removal === null ? 'primary' : undefined"
        @click="take({ kind: 'instead' })"
        >{{ isPage ? 'Give today’s page this text' : 'Put it in place of today’s' }}</v-btn
      >
      <v-btn
        :variant="thing.addressToday === null && thing.removal === null ? 'flat' : 'outlined'"
        :color="thing.addressToday === null && thing.removal === null ? 'primary' : undefined"
        @click="take({ kind: 'beside' })"
        >{{
          thing.addressToday === null
            ? isPage
              ? 'Take it as a page'
              : 'Take the file'
            : isPage
              ? 'Take it as a page beside'
              : 'Take it beside'
        }}</v-btn
      >
    </div>
    <p class="quiet">
      {{
        isPage
          ? 'Its text comes as it was; address, menus and metadata are those of today’s draft. One step takes it back.'
          : 'Pages go on loading it by its address. One step takes it back.'
      }}
    </p>
  </template>
  <template v-if="thing.addressToday !== null && lost.length > 0">
    <h2 class="heading">Sections that today’s page lacks</h2>
    <ul>
      <li v-for="section in lost" :key="`${section.nth} ${section.name}`">
        <KeystoneMark mark="dashed" /><span class="one-line" :title="section.name">{{ section.name }}</span
        ><button
          v-if="session.mayEdit && section.removal !== null"
          class="text-link"
          type="button"
          @click="putBack(section.removal)"
        >
          Put back</button
        ><button
          v-else-if="session.mayEdit"
          class="text-link"
          type="button"
          @click="take({ kind: 'section', section: { name: section.name, nth: section.nth } })"
        >
          Put into the page
        </button>
      </li>
    </ul>
  </template>
  <template v-if="thing.lines.length > 0">
    <h2 class="heading">Source, release {{ release }} to today</h2>
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
