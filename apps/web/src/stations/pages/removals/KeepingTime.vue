<script setup lang="ts">
/** How long removed things are kept. */
import { removalsApi } from '@fastigium/contracts/api/removals';
import type { AnswerOf } from '@fastigium/contracts/endpoint';
import { computed, ref } from 'vue';
import { call } from '../../../api/client.ts';
import LabelledField from '../../../components/LabelledField.vue';
import { readDay } from '../../../logic/format.ts';
import { useNotices } from '../../../stores/notices.ts';
import { useSite } from '../../../stores/site.ts';
import { say } from '../words.ts';

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
  <h1 class="title-face">{{ say('keepingTime.howLongRemovedThingsAre') }}</h1>
  <p>
    {{ say('keepingTime.afterSoManyDaysThey') }}
  </p>
  <form @submit.prevent="set" @keydown.esc.stop="emit('leave')">
    <LabelledField v-model="days" :label="say('keepingTime.days0ForWithoutEnd')" inputmode="numeric" maxlength="4" />
    <v-btn type="submit" height="36" :disabled="number === undefined || number === keptDays">{{
      say('common.set')
    }}</v-btn>
  </form>
  <p v-if="answer" role="status">
    {{
      answer.keptDays === 0
        ? say('keepingTime.removedThingsAreKeptWithout')
        : answer.reached > 0 && answer.notBefore
          ? say('keepingTime.removedThingsAreOlderThan', {
              reached: answer.reached,
              notBefore: readDay(answer.notBefore),
            })
          : say('keepingTime.removedThingsAreKeptDays', { keptDays: answer.keptDays })
    }}
  </p>
  <v-btn @click="emit('leave')">{{ say('keepingTime.back') }}</v-btn>
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
