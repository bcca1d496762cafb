<script setup lang="ts">
defineProps<{ keys: string }>();
</script>

<template>
  <kbd class="key" aria-hidden="true">{{ keys }}</kbd>
</template>

<style scoped>
.key {
  font-family: var(--face-address);
  font-size: 11px;
  font-weight: 400;
  line-height: 16px;
  border: 1px solid color-mix(in srgb, currentcolor 60%, transparent);
  border-radius: 3px;
  padding: 0 5px;
  margin-inline-start: 4px;
}
</style>
