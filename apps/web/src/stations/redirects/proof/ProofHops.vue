<script setup lang="ts">
/** What was asked and answered on the way of one visitor. */
import type { ProofWay } from '@fastigium/contracts/api/redirectProof';
import { formatShownAddress } from '../../shared/settling/shownAddress.ts';
import { BAD_ENDS, END_WORDS } from './flows.ts';
import { say } from '../words.ts';

defineProps<{ way: ProofWay }>();
</script>

<template>
  <ol>
    <li v-for="hop in way.hops" :key="hop.address" class="address">
      <b :class="hop.status < 400 || hop.status === 410 ? 'right' : 'wrong'">{{ hop.status }}</b>
      {{ formatShownAddress(hop.address) }}
    </li>
    <li :class="BAD_ENDS.has(way.end) ? 'wrong' : 'quiet'">
      {{ say('proofHops.endsAt', { end: END_WORDS[way.end] })
      }}<template v-if="way.end === 'outside'"
        >, <span class="address">{{ way.final }}</span></template
      >
    </li>
  </ol>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 4px 0 10px;
  padding: 0;
}
li {
  overflow-wrap: anywhere;
  line-height: 20px;
}
</style>
