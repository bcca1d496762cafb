<script setup lang="ts">
/** The five links by which a visitor reaches the site, in their order; each opens what is known of it. */
import type { LinkName } from '@fastigium/contracts/api/address';
import { computed } from 'vue';
import KeystoneMark from '../../components/KeystoneMark.vue';
import type { Mark } from '../../logic/marks.ts';
import { useAddress } from './address.ts';
import { LINK_MARKS } from './linkMarks.ts';
import { say } from './words.ts';
import { speak } from '../../words/index.ts';

const { view, standing, link, choose } = useAddress();
const TITLES: Readonly<Record<LinkName, string>> = {
  registration: say('chainDrawing.registration'),
  'name-servers': say('chainDrawing.nameServers'),
  records: say('chainDrawing.records'),
  certificate: say('common.certificate'),
  host: say('chainDrawing.host'),
};
const hostWords = computed(() =>
  view.value?.temporary ? say('chainDrawing.temporaryAddress') : view.value ? speak(view.value.hostWords) : '',
);
const links = computed(() =>
  (Object.keys(TITLES) as LinkName[]).map((name) => {
    const seen = standing.value?.chain.find((each) => each.link === name);
    const mark: Mark = seen ? LINK_MARKS[seen.state] : 'dashed';
    return {
      name,
      title: TITLES[name],
      mark,
      words: seen ? speak(seen.words) : name === 'host' ? hostWords.value : say('chainDrawing.noDomainYet'),
    };
  }),
);

function move(event: KeyboardEvent): void {
  const step = { ArrowRight: 1, ArrowLeft: -1, j: 1, k: -1 }[event.key];
  if (step === undefined) return;
  event.preventDefault();
  const at = links.value.findIndex(({ name }) => name === link.value);
  const next = links.value[(at + step + links.value.length) % links.value.length];
  if (!next) return;
  choose(next.name);
  (event.currentTarget as HTMLElement).querySelectorAll('button')[links.value.indexOf(next)]?.focus();
}
</script>

<template>
  <div class="chain" role="tablist" :aria-label="say('chainDrawing.howAVisitorReachesThe')" @keydown="move">
    <button
      v-for="each in links"
      :id="`link-${each.name}`"
      :key="each.name"
      type="button"
      role="tab"
      :aria-selected="each.name === link"
      :tabindex="each.name === link ? 0 : -1"
      aria-controls="link-panel"
      :class="{ on: each.name === link }"
      @click="choose(each.name)"
    >
      <span class="mark"><KeystoneMark :mark="each.mark" :size="26" /></span>
      <span class="title">{{ each.title }}</span>
      <span class="quiet words">{{ each.words }}</span>
    </button>
  </div>
</template>

<style scoped>
.chain {
  display: grid;
  grid-template-columns: repeat(5, minmax(0, 1fr));
  padding: 4px 8px 0;
  border-bottom: var(--line);
  flex: none;
}
button {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  border-bottom: 3px solid transparent;
  padding: 8px 4px 8px;
  display: grid;
  justify-items: center;
  gap: 2px;
  cursor: pointer;
  position: relative;
  min-width: 0;
}
button:hover {
  background: var(--stone-1);
}
button.on {
  border-bottom-color: var(--lapis);
  background: var(--lapis-tint);
  --ink-5: var(--ink-7);
}
.mark {
  position: relative;
  z-index: 1;
  background: inherit;
  padding: 2px 6px;
  line-height: 0;
}
/* The chain itself: a line through the keystones, from the first to the last. */
button::before {
  content: '';
  position: absolute;
  top: 22px;
  left: 0;
  right: 0;
  height: 3px;
  background: var(--stone-3);
}
button:first-child::before {
  left: 50%;
}
button:last-child::before {
  right: 50%;
}
.mark::before {
  content: '';
  position: absolute;
  inset: 0;
  background: var(--paper);
  z-index: -1;
}
button:hover .mark::before {
  background: var(--stone-1);
}
button.on .mark::before {
  background: var(--lapis-tint);
}
.title {
  font-weight: 600;
}
.words {
  text-align: center;
  line-height: 16px;
  min-height: 16px;
  max-width: 100%;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
button:focus-visible {
  outline-offset: -2px;
}
@media (max-width: 699px) {
  .words {
    display: none;
  }
  .title {
    font-size: 12px;
  }
}
</style>
