<script setup lang="ts">
/** The decisions behind a change: whose they are, and the ways to keep them from going out. */
import type { Change } from '@fastigium/contracts/api/releases';
import { computed, ref } from 'vue';
import { formatWhen } from '../../logic/format.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import { useCauses } from './causes.ts';
import { speak } from '../../words/index.ts';
import { say } from './words.ts';

const props = defineProps<{ change: Change }>();
const site = useSite();
const session = useSession();
const causes = useCauses();
const MOST = 2;
const showsAll = ref(false);
const all = computed(() => causes.causesOf(props.change));
</script>

<template>
  <ul v-if="all.length > 0" :aria-label="say('changeCauses.madeBy')">
    <li
      v-for="cause in showsAll ? all : all.slice(0, MOST)"
      :key="cause.seq"
      :class="{ out: causes.leftOut.has(cause.seq) }"
    >
      <span class="one-line" :title="speak(cause.message)"
        ><b>{{ cause.by?.name ?? say('changeCauses.aTimeLimit') }}</b
        >, {{ formatWhen(cause.at, new Date()) }}: {{ speak(cause.message) }}</span
      >
      <span v-if="session.mayEdit && cause.canLeaveOut" class="ways">
        <button
          v-if="causes.leftOut.has(cause.seq)"
          class="text-link"
          type="button"
          @click="causes.leave(cause.seq, false)"
        >
          {{ say('changeCauses.letItGoOut') }}
        </button>
        <button v-else class="text-link" type="button" @click="causes.leave(cause.seq, true)">
          {{ say('changeCauses.leaveOutOfThisRelease') }}
        </button>
        <button class="text-link" type="button" @click="site.decide({ kind: 'undo', of: cause.seq })">
          {{ say('common.takeBack') }}
        </button>
      </span>
    </li>
    <li v-if="all.length > MOST">
      <button class="text-link" type="button" @click="showsAll = !showsAll">
        {{ showsAll ? say('changeCauses.showFewer') : say('changeCauses.andMore', { all: all.length - MOST }) }}
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
