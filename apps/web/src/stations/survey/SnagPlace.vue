<script setup lang="ts">
/** The very place in the source at which a snag stands, marked. */
import type { SourcePlace } from '@fastigium/contracts/api/imports';
import { snagsApi } from '@fastigium/contracts/api/snags';
import { onMounted, ref } from 'vue';
import { call } from '../../api/client.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSite } from '../../stores/site.ts';

const props = defineProps<{ snag: string }>();
const site = useSite();
const notices = useNotices();
const place = ref<SourcePlace>();

onMounted(async () => {
  if (site.id === undefined) return;
  try {
    place.value = await call(snagsApi.place, { params: { site: site.id, key: props.snag } });
  } catch (error) {
    notices.problem(error);
  }
});
</script>

<template>
  <div v-if="place" class="place">
    <div v-for="line in place.lines" :key="line.number" class="line">
      <span class="number">{{ line.number }}</span>
      <code v-if="line.mark"
        >{{ line.text.slice(0, line.mark.start) }}<mark>{{ line.text.slice(line.mark.start, line.mark.end) }}</mark
        >{{ line.text.slice(line.mark.end) }}</code
      >
      <code v-else>{{ line.text }}</code>
    </div>
  </div>
</template>

<style scoped>
.place {
  border: var(--line);
  border-radius: 3px;
  overflow: hidden;
}
.line {
  display: grid;
  grid-template-columns: 40px 1fr;
}
.number {
  padding: 2px 8px;
  text-align: right;
  font-size: 12px;
  color: var(--ink-5);
  background: var(--stone-1);
  font-variant-numeric: tabular-nums;
}
code {
  font-family: var(--face-address);
  font-size: 12px;
  line-height: 18px;
  padding: 2px 8px;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
mark {
  background: var(--madder-tint);
  color: var(--madder);
  padding-block: 1px;
}
</style>
