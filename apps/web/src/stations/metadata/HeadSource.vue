<script setup lang="ts">
/** The effective head as its source, each line with where it comes from, live beside draft. */
import type { PageHead } from '@fastigium/contracts/api/metadata';
import { computed } from 'vue';
import { compareWithLive } from './beside.ts';
import { say } from './words.ts';

const props = defineProps<{ head: PageHead; mayEdit: boolean }>();
const emit = defineEmits<{ pick: [name: string] }>();
const lines = computed(() => compareWithLive(props.head));
const WORDS = {
  imported: say('headSource.imported'),
  site: say('headSource.site'),
  branch: say('headSource.branch'),
  page: say('headSource.page'),
  computed: say('headSource.computed'),
} as const;
const conflicts = computed(
  () => new Set(props.head.lines.filter(({ conflict }) => conflict !== null).map(({ name }) => name)),
);
const canPick = (name: string | null) =>
  props.mayEdit &&
  name !== null &&
  !name.startsWith('json') &&
  !name.startsWith('link:alternate') &&
  name !== 'link:icon' &&
  name !== 'link:manifest';
</script>

<template>
  <ol class="source" :aria-label="say('headSource.theHeadAsItWill')">
    <li v-for="(line, index) in lines" :key="index" :class="line.state">
      <span class="sign" aria-hidden="true">{{ line.state === 'new' ? '+' : line.state === 'gone' ? '−' : '' }}</span>
      <code>{{ line.source }}</code>
      <span class="from" :class="line.from">
        <span v-if="line.state !== 'same'" class="visually-hidden">{{
          line.state === 'new' ? say('common.notLiveYet') : say('headSource.liveAndGoneWithThe')
        }}</span>
        <template v-if="line.state === 'gone'">{{ say('headSource.live') }}</template>
        <button
          v-else-if="canPick(line.name)"
          type="button"
          class="pick"
          :title="say('headSource.changeThisLineSomethingElse', { hasConflicts: conflicts.has(line.name ?? '') })"
          @click="emit('pick', line.name ?? '')"
        >
          {{ conflicts.has(line.name ?? '') ? say('headSource.conflict') : WORDS[line.from] }}
        </button>
        <template v-else>{{ WORDS[line.from] }}</template>
      </span>
    </li>
  </ol>
</template>

<style scoped>
.source {
  list-style: none;
  margin: 0;
  padding: 0;
  border: var(--line);
  background: var(--paper);
}
li {
  display: grid;
  grid-template-columns: 10px minmax(0, 1fr) auto;
  gap: 6px;
  padding: 2px 6px;
  align-items: start;
  border-bottom: 1px solid var(--stone-1);
}
li:last-child {
  border-bottom: 0;
}
code {
  font-family: var(--face-address);
  font-size: 11px;
  line-height: 16px;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  max-height: 96px;
  overflow: auto;
}
.sign {
  font-family: var(--face-address);
  font-size: 12px;
  line-height: 16px;
}
.new {
  background: var(--verdigris-tint);
}
.gone {
  background: var(--madder-tint);
}
.gone code {
  text-decoration: line-through;
}
.from {
  font-size: 11px;
  line-height: 16px;
  color: var(--ink-5);
  white-space: nowrap;
}
.new .from,
.gone .from {
  color: var(--ink-7);
}
.page,
.branch,
.site {
  color: var(--ochre-dark);
}
.pick {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  border-bottom: 1px dotted currentcolor;
  padding: 0;
  cursor: pointer;
}
</style>
