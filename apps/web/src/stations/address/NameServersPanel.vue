<script setup lang="ts">
/** The name servers and whether they say the same. What they say is told by the questions below. */
import { useAddress } from './address.ts';

const { zone } = useAddress();
</script>

<template>
  <p v-if="zone !== ''" class="about">
    Everything a resolver knows of <span class="address">{{ zone }}</span> it has from these servers. Each is asked for
    the zone’s serial number; when the numbers agree, all give the same answers.
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
