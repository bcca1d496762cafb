<script setup lang="ts">
/** What was asked, of whom, what came back and when: the evidence behind a link. */
import type { LinkName } from '@fastigium/contracts/api/address';
import { computed } from 'vue';
import { formatWhen } from '../../logic/format.ts';
import { useAddress } from './address.ts';
import { speak } from '../../words/index.ts';
import { say } from './words.ts';

const props = defineProps<{ of: LinkName; open?: boolean }>();
const { view, standing } = useAddress();
const asked = computed(() => standing.value?.chain.find(({ link }) => link === props.of)?.asked ?? []);
const failed = computed(() => asked.value.filter(({ ok }) => !ok).length);
</script>

<template>
  <details v-if="asked.length > 0" class="asked" :open="open">
    <summary>
      {{ say('askedList.whatWasAskedQuestionsWithout', { asked: asked.length, hasFailed: failed > 0, failed }) }}
    </summary>
    <table>
      <thead>
        <tr>
          <th>{{ say('askedList.question') }}</th>
          <th>{{ say('askedList.ofWhom') }}</th>
          <th>{{ say('askedList.answer') }}</th>
          <th class="figure">{{ say('askedList.took') }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(each, index) in asked" :key="index">
          <td class="address">{{ each.question }}</td>
          <td>{{ each.ofWhom }}</td>
          <td class="address" :class="{ wrong: !each.ok }">{{ speak(each.answer) }}</td>
          <td class="figure quiet" :title="formatWhen(each.at, new Date(view?.now ?? 0))">
            {{ each.ms === null ? '' : say('askedList.ms', { ms: each.ms }) }}
          </td>
        </tr>
      </tbody>
    </table>
  </details>
</template>

<style scoped>
.asked {
  padding: 10px 20px;
}
summary {
  cursor: pointer;
  font-size: 12px;
  color: var(--ink-5);
}
table {
  width: 100%;
  border-collapse: collapse;
  font-size: 12px;
  margin-top: 6px;
  table-layout: fixed;
}
th {
  text-align: left;
  font-weight: 400;
  color: var(--ink-5);
  padding: 4px 8px 4px 0;
  border-bottom: var(--line);
}
td {
  padding: 5px 8px 5px 0;
  border-bottom: var(--line);
  vertical-align: top;
}
td.address {
  font-size: 12px;
}
th:nth-child(1) {
  width: 30%;
}
th:nth-child(2) {
  width: 26%;
}
th:nth-child(4) {
  width: 56px;
  text-align: right;
}
</style>
