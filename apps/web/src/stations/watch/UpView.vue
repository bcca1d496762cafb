<script setup lang="ts">
/** How the live host stands: whether it gives the release, days ahead, and whether the site was there: thirty days, what the plan's promise means, and each time it was away. */
import type { Drift, Up, Watch } from '@fastigium/contracts/api/watch';
import { computed } from 'vue';
import KeystoneMark from '../../components/KeystoneMark.vue';
import { duration } from '../../logic/duration.ts';
import { count, dayOf, when } from '../../logic/format.ts';
import DatesPart from './DatesPart.vue';
import DriftPart from './DriftPart.vue';
import { milliseconds, minutesWords, percentWords, promiseWords } from './upWords.ts';

const props = defineProps<{ up: Up; drift: Drift | null; dates: Watch['dates']; now: Date }>();
const watched = computed(() => props.up.days.filter(({ percent }) => percent !== null).length);
const markOf = (percent: number | null) => (percent === null ? 'none' : percent >= 99.995 ? 'whole' : 'part');
</script>

<template>
  <div class="up">
    <DriftPart :drift="drift" :now="now" />
    <DatesPart :dates="dates" :now="now" />
    <h2 class="heading">Uptime</h2>
    <p class="verdict">
      <KeystoneMark :mark="up.isUp === null ? 'dashed' : up.isUp ? 'verdigris' : 'madder'" />
      <b>{{ up.isUp === null ? 'Not asked yet' : up.isUp ? 'The site answers' : 'The site does not answer' }}</b>
      <span class="quiet">{{
        up.lastAt ? `asked ${when(up.lastAt, now)}, every 5 minutes` : 'the first probe follows within minutes'
      }}</span>
    </p>
    <dl v-if="up.percent !== null">
      <dt>There</dt>
      <dd>
        <b>{{ percentWords(up.percent) }}</b> of {{ minutesWords(up.watchedMinutes) }} watched;
        {{ up.downMinutes === 0 ? 'never away' : `away ${minutesWords(up.downMinutes)}` }}
      </dd>
      <dt>Promised</dt>
      <dd>{{ promiseWords(up) }}</dd>
      <dt>First byte</dt>
      <dd v-if="up.firstByte">
        <b>{{ milliseconds(up.firstByte.median) }}</b> in the middle, {{ milliseconds(up.firstByte.p95) }} or less for
        19 of 20
      </dd>
      <dd v-else>never</dd>
    </dl>
    <div class="days" aria-hidden="true">
      <span
        v-for="each in up.days"
        :key="each.day"
        :class="markOf(each.percent)"
        :title="`${dayOf(each.day)}: ${each.percent === null ? 'not watched' : percentWords(each.percent)}${each.median === null ? '' : `, ${milliseconds(each.median)}`}`"
      />
    </div>
    <p class="quiet ends" aria-hidden="true">
      <span>{{ dayOf(up.days[0]?.day ?? '') }}</span><span>{{ count(watched, 'day') }} watched</span><span>today</span>
    </p>
    <table class="visually-hidden">
      <caption>
        Day by day
      </caption>
      <thead>
        <tr>
          <th>Day</th>
          <th>There</th>
          <th>First byte, in the middle</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="each in up.days" :key="each.day">
          <th>{{ dayOf(each.day) }}</th>
          <td>{{ each.percent === null ? 'not watched' : percentWords(each.percent) }}</td>
          <td>{{ each.median === null ? '' : milliseconds(each.median) }}</td>
        </tr>
      </tbody>
    </table>
    <h2 class="heading">Times it was away</h2>
    <p v-if="up.outages.length === 0" class="quiet">None in thirty days, as far as it was watched.</p>
    <ul v-else>
      <li v-for="outage in up.outages" :key="outage.from">
        <KeystoneMark :mark="outage.to ? 'dashed' : 'madder'" /><span
          >{{ when(outage.from, now) }},
          {{
            outage.to ? `for ${duration(new Date(outage.to).getTime() - new Date(outage.from).getTime())}` : 'and still'
          }}</span
        ><span class="quiet">{{ outage.problem }}</span>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.up {
  padding: 12px 20px;
  overflow: auto;
  flex: 1;
}
.verdict {
  display: flex;
  gap: 8px;
  align-items: center;
  margin: 0 0 10px;
}
dl {
  display: grid;
  grid-template-columns: 110px 1fr;
  gap: 4px 12px;
  margin: 0 0 14px;
}
dt {
  color: var(--ink-5);
  font-size: 12px;
  line-height: 20px;
}
dd {
  margin: 0;
}
.days {
  display: grid;
  grid-template-columns: repeat(30, 1fr);
  gap: 3px;
  height: 34px;
}
.days span {
  border-radius: 1px;
}
.whole {
  background: var(--verdigris);
}
.part {
  background: repeating-linear-gradient(45deg, var(--madder) 0 4px, var(--madder-tint) 4px 8px);
}
.none {
  border: 1px dashed var(--stone-5);
}
.ends {
  display: flex;
  justify-content: space-between;
  margin: 4px 0 18px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: auto auto 1fr;
  gap: 10px;
  padding: 6px 0;
  border-bottom: var(--line);
  align-items: baseline;
}
</style>
