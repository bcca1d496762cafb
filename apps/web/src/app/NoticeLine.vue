<script setup lang="ts">
import { watch } from 'vue';
import { useNotices } from '../stores/notices.ts';
import { say } from './words.ts';

const notices = useNotices();
// Problems stay until they are read; what went well need not.
const DONE_MS = 6000;
let timer: ReturnType<typeof setTimeout> | undefined;

watch(
  () => notices.notice,
  (notice) => {
    clearTimeout(timer);
    if (notice?.kind === 'done') timer = setTimeout(notices.clear, DONE_MS);
  },
);
</script>

<template>
  <div class="place" aria-live="polite">
    <div
      v-if="notices.notice"
      :key="notices.notice.id"
      class="notice"
      :class="notices.notice.kind"
      :role="notices.notice.kind === 'problem' ? 'alert' : undefined"
    >
      <span class="text">{{ notices.notice.text }}</span>
      <button v-if="notices.notice.action" type="button" @click="(notices.notice.action.run(), notices.clear())">
        {{ notices.notice.action.label }}
      </button>
      <button type="button" :aria-label="say('noticeLine.closeThisNotice')" @click="notices.clear()">
        {{ say('common.close') }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.place {
  position: fixed;
  left: 50%;
  bottom: 6px;
  transform: translateX(-50%);
  z-index: 3000;
  width: max-content;
  max-width: min(480px, calc(100vw - 40px));
}
@media (max-width: 1099px) {
  .place {
    bottom: 60px;
  }
}
.notice {
  display: flex;
  gap: 16px;
  align-items: baseline;
  padding: 10px 14px;
  background: var(--ink-9);
  color: var(--paper);
  border-radius: 3px;
  border-left: 4px solid var(--verdigris);
}
.notice.problem {
  border-left-color: var(--madder);
}
.text {
  flex: 1;
  overflow-wrap: anywhere;
}
button {
  background: none;
  border: 0;
  padding: 0;
  font: inherit;
  font-weight: 600;
  color: inherit;
  text-decoration: underline;
  text-underline-offset: 2px;
  cursor: pointer;
}
</style>
