<script setup lang="ts">
/** Where visitors get the live release. */
import type { SiteOverview } from '@fastigium/contracts/api/sites';
import { formatDay } from '../../logic/format.ts';
import RichWords from '../../words/RichWords.ts';
import { say } from './words.ts';

/** `url`: its temporary name, by which it can be visited from the first release on. */
defineProps<{ overview: SiteOverview; url: string }>();
</script>

<template>
  <p v-if="overview.live?.downSince">
    {{ say('liveAt.nobodyGetsItAnyMore', { downSince: formatDay(overview.live.downSince) }) }}
  </p>
  <p v-else-if="overview.address?.state === 'right'">
    <RichWords
      :words="
        say.parts('liveAt.liveAtHttpsAndBy', {
          main: overview.address.main,
          basePath: overview.basePath,
          liveUrl: url,
        })
      "
      ><template #address="{ words }"
        ><span class="address">{{ words }}</span></template
      ><template #link="{ words }"
        ><a class="address" :href="url" target="_blank" rel="noopener">{{ words }}</a></template
      ></RichWords
    >
  </p>
  <p v-else>
    <RichWords :words="say.parts('liveAt.liveAt', { liveUrl: url })"
      ><template #link="{ words }"
        ><a class="address" :href="url" target="_blank" rel="noopener">{{ words }}</a></template
      ></RichWords
    >
  </p>
</template>

<style scoped>
p {
  margin: 4px 0 8px;
}
a.address {
  color: var(--lapis);
}
</style>
