<script setup lang="ts">
/** What somebody should know of the live site today, each in a line of its own. */
import type { Alert } from '@fastigium/contracts/api/watch';
import KeystoneMark from '../../components/KeystoneMark.vue';
import { speak } from '../../words/index.ts';
import { say } from './words.ts';

defineProps<{ alerts: readonly Alert[] }>();
/** To where it can be looked at. */
defineEmits<{ go: [alert: Alert] }>();
</script>

<template>
  <ul v-if="alerts.length > 0" role="alert">
    <li v-for="alert in alerts" :key="`${alert.kind} ${speak(alert.message)}`" :class="alert.weight">
      <KeystoneMark :mark="alert.weight === 'wrong' ? 'madder' : 'ochre'" /><span>{{ speak(alert.message) }}.</span
      ><button
        class="text-link"
        type="button"
        :aria-label="say('alertLines.lookAtIt', { message: speak(alert.message) })"
        @click="$emit('go', alert)"
      >
        {{ say('alertLines.lookAtIt2') }}
      </button>
    </li>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  gap: 10px;
  align-items: baseline;
  padding: 7px 20px;
  border-bottom: var(--line);
  background: var(--ochre-tint);
}
li.wrong {
  background: var(--madder-tint);
}
li span {
  flex: 1;
}
.text-link {
  min-height: 24px;
}
</style>
