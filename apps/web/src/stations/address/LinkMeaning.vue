<script setup lang="ts">
/** What the state of the chosen link means for visitors. */
import { computed } from 'vue';
import { useAddress } from './address.ts';
import { speak } from '../../words/index.ts';

const { standing, link } = useAddress();
const seen = computed(() => standing.value?.chain.find((each) => each.link === link.value));
</script>

<template>
  <p v-if="seen" class="meaning" :class="`is-${seen.state}`">{{ speak(seen.meaning) }}</p>
</template>

<style scoped>
.meaning {
  margin: 0;
  padding: 10px 20px;
  border-bottom: var(--line);
  border-left: 3px solid var(--stone-3);
  padding-left: 17px;
}
.is-right {
  border-left-color: var(--verdigris);
}
.is-broken {
  border-left-color: var(--madder);
}
.is-moving {
  border-left-color: var(--ochre);
}
</style>
