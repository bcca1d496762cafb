<script setup lang="ts">
/** Where visitors come from, by country and visits; regions are ranked by it. */
import { hostingApi } from '@fastigium/contracts/api/hosting';
import type { AnswerOf } from '@fastigium/contracts/endpoint';
import { onMounted, ref, shallowRef } from 'vue';
import { call } from '../../api/client.ts';
import { useNotices } from '../../stores/notices.ts';
import { useHosting } from './hosting.ts';
import { say } from './words.ts';

const emit = defineEmits<{ done: [] }>();
const { view, busy, act } = useHosting();
const notices = useNotices();
const countries = shallowRef<AnswerOf<typeof hostingApi.countries>>([]);
const rows = ref<{ code: string; visits: string }[]>([]);

onMounted(async () => {
  try {
    countries.value = await call(hostingApi.countries);
    rows.value = (view.value?.visitors ?? [])
      .filter(({ code }) => code !== '')
      .map(({ code, weight }) => ({ code, visits: String(weight) }));
    if (rows.value.length === 0) rows.value.push({ code: 'GB', visits: '' });
  } catch (error) {
    notices.problem(error);
  }
});

async function keep(): Promise<void> {
  const visitors = rows.value
    .map(({ code, visits }) => ({ code, visits: Number(visits) }))
    .filter(({ visits }) => visits > 0);
  if (
    await act(
      (site) => call(hostingApi.visitors, { params: { site }, body: { visitors } }),
      say('visitorCountries.regionsAreRankedByThese'),
    )
  )
    emit('done');
}
</script>

<template>
  <form class="countries" @submit.prevent="keep">
    <div v-for="(row, index) in rows" :key="index" class="row">
      <select v-model="row.code" :aria-label="say('visitorCountries.country', { index: index + 1 })">
        <option v-for="country in countries" :key="country.code" :value="country.code">{{ country.name }}</option>
      </select>
      <input
        v-model="row.visits"
        type="number"
        min="0"
        step="1"
        placeholder="visits"
        :aria-label="say('visitorCountries.visitsFromCountry', { index: index + 1 })"
      />
      <button class="text-link" type="button" @click="rows.splice(index, 1)">
        {{ say('visitorCountries.remove') }}
      </button>
    </div>
    <div class="buttons">
      <button class="text-link" type="button" @click="rows.push({ code: 'IE', visits: '' })">
        {{ say('visitorCountries.oneMoreCountry') }}
      </button>
      <v-btn type="submit" height="30" :disabled="busy">{{ say('visitorCountries.rankByTheseVisits') }}</v-btn>
    </div>
  </form>
</template>

<style scoped>
.countries {
  padding: 8px 20px 12px;
  display: grid;
  gap: 6px;
  border-bottom: var(--line);
  background: var(--stone-1);
}
.row {
  display: grid;
  grid-template-columns: minmax(0, 260px) 110px auto 1fr;
  gap: 10px;
  align-items: center;
}
select,
input {
  font: inherit;
  font-size: 13px;
  padding: 3px 8px;
  border: 1px solid var(--stone-3);
  border-radius: 2px;
  background: var(--bench);
  color: inherit;
}
.buttons {
  display: flex;
  gap: 16px;
  align-items: center;
}
</style>
