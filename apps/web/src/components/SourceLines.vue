<script setup lang="ts">
/** What differs between two sources, line by line. */
defineProps<{ lines: readonly { readonly sign: ' ' | '-' | '+'; readonly text: string }[] }>();
</script>

<template>
  <div class="lines">
    <div
      v-for="(line, index) in lines"
      :key="index"
      class="line"
      :class="{ minus: line.sign === '-', plus: line.sign === '+' }"
    >
      <span aria-hidden="true">{{ line.sign }}</span> {{ line.text }}
    </div>
  </div>
</template>

<style scoped>
.lines {
  border: var(--line);
}
.line {
  font-family: var(--face-address);
  font-size: 12px;
  line-height: 20px;
  padding-inline: 8px;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  min-height: 6px;
}
.minus {
  background: var(--madder-tint);
}
.plus {
  background: var(--verdigris-tint);
}
</style>
