<script setup lang="ts">
/** Days ahead: of the certificate, of the name, and of the site itself. */
import type { Watch } from '@fastigium/contracts/api/watch';
import { CERTIFICATE_DAYS, COMES_DOWN_DAYS, REGISTRATION_DAYS } from '@fastigium/core/watch';
import { countDaysLeft } from '@fastigium/core/reach';
import { computed } from 'vue';
import KeystoneMark from '../../components/KeystoneMark.vue';
import { readDay } from '../../logic/format.ts';
import type { Mark } from '../../logic/marks.ts';
import { say } from './words.ts';

const props = defineProps<{ dates: Watch['dates']; now: Date }>();

interface Row {
  readonly what: string;
  readonly name: string;
  readonly at: string;
  readonly left: number;
  readonly mark: Mark;
}
const createRow = (what: string, name: string, iso: string, soonDays: number): Row => {
  const left = countDaysLeft(Date.parse(iso), props.now.getTime());
  return {
    what,
    name,
    at: iso.slice(0, 10),
    left: Math.floor(left),
    mark: left <= 0 ? 'madder' : left < soonDays ? 'ochre' : 'verdigris',
  };
};
const rows = computed<Row[]>(() => {
  const { certificates, registrations, comesDown } = props.dates;
  return [
    ...certificates.map(({ name, at }) => createRow(say('common.certificate'), name, at, CERTIFICATE_DAYS)),
    ...registrations.map(({ name, at }) => createRow(say('datesPart.registration'), name, at, REGISTRATION_DAYS)),
    ...(comesDown
      ? [
          createRow(
            say('datesPart.comesDown'),
            say('datesPart.theSiteAfterThisDay'),
            `${comesDown}T23:59:59Z`,
            COMES_DOWN_DAYS,
          ),
        ]
      : []),
  ].sort((a, b) => a.left - b.left);
});
</script>

<template>
  <h2 class="heading">{{ say('datesPart.daysAhead') }}</h2>
  <p v-if="rows.length === 0" class="quiet">{{ say('datesPart.noneIsKnownTheyAre') }}</p>
  <table v-else>
    <tbody>
      <tr v-for="each in rows" :key="each.what">
        <td><KeystoneMark :mark="each.mark" /></td>
        <th scope="row">{{ each.what }}</th>
        <td class="address">{{ each.name }}</td>
        <td>{{ readDay(each.at) }} {{ each.at.slice(0, 4) }}</td>
        <td class="figure">
          {{ each.left < 0 ? say('datesPart.over') : say('datesPart.inDays', { left: each.left }) }}
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table {
  border-collapse: collapse;
  width: 100%;
  margin-bottom: 18px;
}
th {
  text-align: left;
  font-weight: 600;
}
th,
td {
  padding: 6px 16px 6px 0;
  border-bottom: var(--line);
  font-size: 13px;
}
p {
  margin: 0 0 18px;
}
</style>
