<script setup lang="ts">
/** The decisions behind a change: whose they are, and the ways to keep them from going out. */
import type { Change } from '@fastigium/contracts/api/releases';
import { computed, ref } from 'vue';
import { when } from '../../logic/format.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import { useCauses } from './causes.ts';
import { speak } from '../../words.ts';

const props = defineProps<{ change: Change }>();
const site = useSite();
const session = useSession();
const causes = useCauses();
const MOST = 2;
const showsAll = ref(false);
const all = computed(() => causes.causesOf(props.change));
</script>

<template>
  <ul v-if="all.length > 0" aria-label="Made by">
    <li
      v-for="cause in showsAll ? all : all.slice(0, MOST)"
      :key="cause.seq"
      :class="{ out: causes.leftOut.has(cause.seq) }"
    >
      <span class="one-line" :title="speak(cause.message)"
        ><b>{{ cause.by?.name ?? 'A time limit' }}</b
        >, {{ when(cause.at, new Date()) }}: {{ speak(cause.message) }}</span
      >
      <span v-if="session.mayEdit && cause.canLeaveOut" class="ways">
        <button
          v-if="causes.leftOut.has(cause.seq)"
          class="text-link"
          type="button"
          @click="causes.leave(cause.seq, false)"
        >
          Let it go out
        </button>
        <button v-else class="text-link" type="button" @click="causes.leave(cause.seq, true)">
          Leave out of this release
        </button>
        <button class="text-link" type="button" @click="site.decide({ kind: 'undo', of: cause.seq })">Take back</button>
      </span>
    </li>
    <li v-if="all.length > MOST">
      <button class="text-link" type="button" @click="showsAll = !showsAll">
        {{ showsAll ? 'Show fewer' : `and ${all.length - MOST} more` }}
      </button>
    </li>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0 0 8px;
  padding: 0;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 16px;
  font-size: 13px;
  align-items: baseline;
}
.ways {
  display: flex;
  gap: 14px;
  flex: none;
}
.text-link {
  min-height: 24px;
}
.out .one-line {
  color: var(--ink-5);
  text-decoration: line-through;
}
</style>
