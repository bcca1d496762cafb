<script setup lang="ts">
/** The name servers and whether they say the same. What they say is told by the questions below. */
import { useAddress } from './address.ts';
import { say } from './words.ts';
import RichWords from '../../words/RichWords.ts';

const { zone } = useAddress();
</script>

<template>
  <p v-if="zone !== ''" class="about">
    <RichWords :words="say.parts('nameServersPanel.everythingAResolverKnowsOf', { zone })" />
  </p>
</template>

<style scoped>
.about {
  padding: 10px 20px 0;
  margin: 0;
  color: var(--ink-7);
  max-width: 640px;
}
</style>
