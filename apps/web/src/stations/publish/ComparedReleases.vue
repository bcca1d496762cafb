<script setup lang="ts">
/** Which two releases are held against each other, and the way back to the draft. */
import type { Release } from '@fastigium/contracts/api/releases';
import { computed } from 'vue';
import { formatWhen } from '../../logic/format.ts';
import { useWorld } from '../../stores/world.ts';
import type { Two } from './compared.ts';
import { say } from './words.ts';

const props = defineProps<{
  releases: readonly Release[];
  /** Undefined while it is reckoned. */ changes: number | undefined;
}>();
const two = defineModel<Two>({ required: true });
defineEmits<{ leave: [] }>();
const world = useWorld();
const kept = computed(() => props.releases.filter(({ state }) => state === 'live' || state === 'past'));
const choose = (side: keyof Two, event: Event) => {
  two.value = { ...two.value, [side]: Number((event.target as HTMLSelectElement).value) };
};
</script>

<template>
  <div class="head">
    <h1 class="strong">
      {{ changes === undefined ? say('comparedReleases.comparing') : say('comparedReleases.changesFrom', { changes }) }}
    </h1>
    <template v-for="side in ['before', 'after'] as const" :key="side">
      <span v-if="side === 'after'">{{ say('comparedReleases.to') }}</span>
      <select
        :aria-label="side === 'before' ? say('comparedReleases.earlierRelease') : say('comparedReleases.laterRelease')"
        :value="two[side]"
        @change="choose(side, $event)"
      >
        <option v-for="release in kept" :key="release.id" :value="release.number">
          {{
            say('comparedReleases.release', {
              number: release.number,
              liveAt: formatWhen(release.liveAt ?? release.createdAt, world.now),
            })
          }}
        </option>
      </select>
    </template>
    <span class="gap" />
    <button class="text-link" type="button" @click="$emit('leave')">
      {{ say('comparedReleases.backToLiveAndDraft') }}
    </button>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  align-items: center;
  min-height: 46px;
  padding-inline: 20px;
  border-bottom: var(--line);
  gap: 10px;
  flex-wrap: wrap;
}
h1 {
  font-size: 14px;
  margin: 0;
}
select {
  font: inherit;
  color: var(--ink-9);
  background: var(--bench);
  border: 1px solid var(--stone-3);
  border-radius: 2px;
  padding: 2px 4px;
}
.gap {
  flex: 1;
}
</style>
