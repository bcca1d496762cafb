<script setup lang="ts">
/** How long removed things are kept. */
import { removalsApi } from '@fastigium/contracts/api/removals';
import type { AnswerOf } from '@fastigium/contracts/endpoint';
import { computed, ref } from 'vue';
import { call } from '../../../api/client.ts';
import LabelledField from '../../../components/LabelledField.vue';
import { count, dayOf } from '../../../logic/format.ts';
import { useNotices } from '../../../stores/notices.ts';
import { useSite } from '../../../stores/site.ts';

const props = defineProps<{ keptDays: number }>();
const emit = defineEmits<{ leave: [] }>();
const site = useSite();
const notices = useNotices();
const days = ref(String(props.keptDays));
const answer = ref<AnswerOf<typeof removalsApi.keepFor>>();
const number = computed(() => (/^\d{1,4}$/.test(days.value.trim()) ? Number(days.value) : undefined));

async function set(): Promise<void> {
  if (site.id === undefined || number.value === undefined) return;
  try {
    answer.value = await call(removalsApi.keepFor, { params: { site: site.id }, body: { days: number.value } });
    await site.refresh();
  } catch (error) {
    notices.problem(error);
  }
}
</script>

<template>
  <h1 class="title-face">How long removed things are kept</h1>
  <p>
    After so many days they go for good, each sweep written to the history. What somebody holds stays. Nothing goes that
    was not announced here and under Survey a week before.
  </p>
  <form @submit.prevent="set" @keydown.esc.stop="emit('leave')">
    <LabelledField v-model="days" label="Days; 0 for without end" inputmode="numeric" maxlength="4" />
    <v-btn type="submit" height="36" :disabled="number === undefined || number === keptDays">Set</v-btn>
  </form>
  <p v-if="answer" role="status">
    {{
      answer.keptDays === 0
        ? 'Removed things are kept without end.'
        : answer.reached > 0 && answer.notBefore
          ? `${count(answer.reached, 'removed thing is', 'removed things are')} older than that already. None of them goes before ${dayOf(answer.notBefore)}: put back or hold what is to stay.`
          : `Removed things are kept ${count(answer.keptDays, 'day')}.`
    }}
  </p>
  <v-btn @click="emit('leave')">Back</v-btn>
</template>

<style scoped>
form {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: end;
  margin: 12px 0;
}
p {
  margin: 8px 0;
}
</style>
