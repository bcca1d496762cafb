<script setup lang="ts">
/** The site's domains, each with how it stands by itself; the one that is chosen is what the chain below tells of. */
import { LINK_NAMES, standing } from '@fastigium/core/reach';
import { computed } from 'vue';
import KeystoneMark from '../../components/KeystoneMark.vue';
import { LINK_MARKS } from './linkMarks.ts';
import { useAddress } from './address.ts';
import { say } from './words.ts';
import { speak } from '../../words/index.ts';

const { view, zone, chooseDomain } = useAddress();
const domains = computed(() => {
  const main = view.value?.domain;
  if (!view.value || !main) return [];
  return [
    { ...view.value, zone: main.zone, name: main.unicode, role: say('domainRow.theSiteItself') },
    ...view.value.further.map((each) => ({
      ...each,
      name: each.unicode,
      role: say('domainRow.leadsTo', { main: main.main }),
    })),
  ].map(({ zone: own, name, role, chain, firstBroken }) => {
    const link = chain.find((each) => each.link === firstBroken);
    return {
      zone: own,
      name,
      mark: chain.length === 0 ? ('dashed' as const) : LINK_MARKS[link?.state ?? 'right'],
      words: link ? speak(standing('at-link', { link: LINK_NAMES[link.link], words: link.words })) : role,
    };
  });
});
</script>

<template>
  <ul v-if="domains.length > 1" class="domains" :aria-label="say('domainRow.domainsOfTheSite')">
    <li v-for="each in domains" :key="each.zone">
      <button
        type="button"
        :aria-pressed="each.zone === zone"
        :class="{ on: each.zone === zone }"
        @click="chooseDomain(each.zone)"
      >
        <KeystoneMark :mark="each.mark" :size="16" />
        <span class="address name">{{ each.name }}</span>
        <span class="quiet one-line">{{ each.words }}</span>
      </button>
    </li>
  </ul>
</template>

<style scoped>
.domains {
  list-style: none;
  margin: 4px 20px 6px;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  flex: none;
}
li {
  min-width: 0;
}
button {
  font: inherit;
  color: inherit;
  background: none;
  border: 1px solid var(--stone-2);
  border-radius: 2px;
  padding: 4px 10px 4px 8px;
  display: flex;
  align-items: center;
  gap: 8px;
  cursor: pointer;
  max-width: 100%;
}
button:hover {
  background: var(--stone-1);
}
button.on {
  border-color: var(--lapis);
  background: var(--lapis-tint);
  --ink-5: var(--ink-7);
}
/* The name is read whole; what is said of it can be read again in the chain. */
.name {
  flex: none;
  max-width: 60vw;
  overflow-wrap: anywhere;
  text-align: left;
}
.quiet {
  font-size: 12px;
  max-width: 220px;
}
</style>
