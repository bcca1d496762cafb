<script setup lang="ts">
/** How the live host stands: whether it gives the release, days ahead, and whether the site was there: thirty days, what the plan's promise means, and each time it was away. */
import type { Drift, Up, Watch } from '@fastigium/contracts/api/watch';
import { computed } from 'vue';
import KeystoneMark from '../../components/KeystoneMark.vue';
import { formatDuration } from '../../logic/duration.ts';
import { readDay, formatWhen } from '../../logic/format.ts';
import DatesPart from './DatesPart.vue';
import DriftPart from './DriftPart.vue';
import { sayMilliseconds, sayMinutes, sayPercent, promiseWords } from './upWords.ts';
import { speak } from '../../words/index.ts';
import { say } from './words.ts';
import RichWords from '../../words/RichWords.ts';

const props = defineProps<{ up: Up; drift: Drift | null; dates: Watch['dates']; now: Date }>();
const watched = computed(() => props.up.days.filter(({ percent }) => percent !== null).length);
const markOf = (percent: number | null) => (percent === null ? 'none' : percent >= 99.995 ? 'whole' : 'part');
</script>

<template>
  <div class="up">
    <DriftPart :drift="drift" :now="now" />
    <DatesPart :dates="dates" :now="now" />
    <h2 class="heading">{{ say('upView.uptime') }}</h2>
    <p class="verdict">
      <KeystoneMark :mark="up.isUp === null ? 'dashed' : up.isUp ? 'verdigris' : 'madder'" />
      <b>{{
        up.isUp === null
          ? say('upView.notAskedYet')
          : up.isUp
            ? say('upView.theSiteAnswers')
            : say('upView.theSiteDoesNotAnswer')
      }}</b>
      <span class="quiet">{{
        up.lastAt
          ? say('upView.askedEvery5Minutes', { lastAt: formatWhen(up.lastAt, now) })
          : say('upView.theFirstProbeFollowsWithin')
      }}</span>
    </p>
    <dl v-if="up.percent !== null">
      <dt>{{ say('upView.there') }}</dt>
      <dd>
        <RichWords
          :words="
            say.parts('upView.ofWatchedAway', {
              percent: sayPercent(up.percent),
              watchedMinutes: sayMinutes(up.watchedMinutes),
              noDownMinutes: up.downMinutes === 0,
              downMinutes: sayMinutes(up.downMinutes),
            })
          "
        />
      </dd>
      <dt>{{ say('upView.promised') }}</dt>
      <dd>{{ promiseWords(up) }}</dd>
      <dt>{{ say('upView.firstByte') }}</dt>
      <dd v-if="up.firstByte">
        <RichWords
          :words="
            say.parts('upView.inTheMiddleOrLess', {
              median: sayMilliseconds(up.firstByte.median),
              p95: sayMilliseconds(up.firstByte.p95),
            })
          "
        />
      </dd>
      <dd v-else>{{ say('upView.never') }}</dd>
    </dl>
    <div class="days" aria-hidden="true">
      <span
        v-for="each in up.days"
        :key="each.day"
        :class="markOf(each.percent)"
        :title="
          say('upView.day', {
            day: readDay(each.day),
            percent: each.percent === null ? say('upView.notWatched') : sayPercent(each.percent),
            median: each.median === null ? '' : `, ${sayMilliseconds(each.median)}`,
          })
        "
      />
    </div>
    <p class="quiet ends" aria-hidden="true">
      <span>{{ readDay(up.days[0]?.day ?? '') }}</span><span>{{ say('upView.daysWatched', { watched }) }}</span
      ><span>{{ say('upView.today') }}</span>
    </p>
    <table class="visually-hidden">
      <caption>
        {{
          say('upView.dayByDay')
        }}
      </caption>
      <thead>
        <tr>
          <th>{{ say('common.day') }}</th>
          <th>{{ say('upView.there') }}</th>
          <th>{{ say('upView.firstByteInTheMiddle') }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="each in up.days" :key="each.day">
          <th>{{ readDay(each.day) }}</th>
          <td>{{ each.percent === null ? say('upView.notWatched') : sayPercent(each.percent) }}</td>
          <td>{{ each.median === null ? '' : sayMilliseconds(each.median) }}</td>
        </tr>
      </tbody>
    </table>
    <h2 class="heading">{{ say('upView.timesItWasAway') }}</h2>
    <p v-if="up.outages.length === 0" class="quiet">{{ say('upView.noneInThirtyDaysAs') }}</p>
    <ul v-else>
      <li v-for="outage in up.outages" :key="outage.from">
        <KeystoneMark :mark="outage.to ? 'dashed' : 'madder'" /><span>{{
          say('upView.andStill', {
            from: formatWhen(outage.from, now),
            hasTo: Boolean(outage.to),
            to: outage.to && formatDuration(Date.parse(outage.to) - Date.parse(outage.from)),
          })
        }}</span
        ><span class="quiet">{{ speak(outage.problem) }}</span>
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
