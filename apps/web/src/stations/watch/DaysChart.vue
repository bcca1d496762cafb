<script setup lang="ts">
/** How visitors fared, day by day, as stacked bars; the same figures stand in a table for those who cannot see them. */
import type { WatchedDay } from '@fastigium/contracts/api/watch';
import { BarChart } from 'echarts/charts';
import { AriaComponent, GridComponent, TooltipComponent } from 'echarts/components';
import { use } from 'echarts/core';
import { CanvasRenderer } from 'echarts/renderers';
import { ref } from 'vue';
import { useChart } from '../../components/chart.ts';
import { readDay, formatFigure } from '../../logic/format.ts';
import { FATES } from './watchWords.ts';
import { say } from './words.ts';

use([BarChart, GridComponent, TooltipComponent, AriaComponent, CanvasRenderer]);

const props = defineProps<{ days: readonly WatchedDay[] }>();
const box = ref<HTMLElement>();

useChart(
  box,
  (colors) => {
    const text = { color: colors.ink5 ?? '', fontSize: 12, fontFamily: say('daysChart.archivoVariable') };
    return {
      animation: false,
      grid: { left: 20, right: 20, top: 8, bottom: 22, outerBoundsMode: 'same' },
      tooltip: {
        trigger: 'axis',
        axisPointer: { type: 'none' },
        confine: true,
        backgroundColor: colors.bench,
        borderColor: colors.stone3,
        textStyle: { color: colors.ink9, fontSize: 12 },
        valueFormatter: (n: unknown) => formatFigure(Number(n)),
      },
      xAxis: {
        type: 'category',
        data: props.days.map(({ day }) => readDay(day)),
        axisTick: { show: false },
        axisLine: { lineStyle: { color: colors.stone3 } },
        axisLabel: { ...text, hideOverlap: true },
      },
      yAxis: { type: 'value', show: false },
      series: FATES.map(({ fate, words, colour, hatched }) => ({
        name: words,
        type: 'bar',
        stack: 'all',
        barCategoryGap: '34%',
        itemStyle: {
          color: colors[colour] ?? '',
          ...(hatched
            ? {
                decal: {
                  symbol: 'rect',
                  dashArrayX: [1, 0],
                  dashArrayY: [2, 3],
                  rotation: Math.PI / 4,
                  color: colors.paper ?? '',
                },
              }
            : {}),
        },
        data: props.days.map((day) => day[fate]),
      })),
    };
  },
  [() => props.days],
);
</script>

<template>
  <div ref="box" class="chart" aria-hidden="true" />
  <table class="visually-hidden">
    <caption>
      {{
        say('daysChart.requestsByPeopleDayBy')
      }}
    </caption>
    <thead>
      <tr>
        <th>{{ say('common.day') }}</th>
        <th v-for="each in FATES" :key="each.fate">{{ each.words }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="day in days" :key="day.day">
        <th>{{ readDay(day.day) }}</th>
        <td v-for="each in FATES" :key="each.fate">{{ formatFigure(day[each.fate]) }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.chart {
  width: 100%;
  height: 104px;
}
</style>
