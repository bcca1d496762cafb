<script setup lang="ts">
/** Where visits to old branches land, as a flow; the same figures are a table beside it. */
import { SankeyChart } from 'echarts/charts';
import { AriaComponent, TooltipComponent } from 'echarts/components';
import { use } from 'echarts/core';
import { CanvasRenderer } from 'echarts/renderers';
import { computed, ref } from 'vue';
import { useChart } from '../../../components/chart.ts';
import { END_WORDS, type Flow } from './flows.ts';
import { say } from '../words.ts';

use([SankeyChart, TooltipComponent, AriaComponent, CanvasRenderer]);

const props = defineProps<{ flows: readonly Flow[]; /** Visits; else addresses. */ byVisits: boolean }>();
const box = ref<HTMLElement>();

/** The two sides may have branches of the same name. */
const LEFT = 'old ';
const RIGHT = 'new ';
const BAD: readonly string[] = [END_WORDS.missing, END_WORDS.loop, END_WORDS.unasked];
const value = (flow: Flow) => (props.byVisits ? flow.visits : flow.addresses);
const sides = computed(() =>
  Math.max(new Set(props.flows.map(({ from }) => from)).size, new Set(props.flows.map(({ to }) => to)).size),
);
const height = computed(() => Math.min(220, 30 + sides.value * 26));

useChart(
  box,
  (colors) => {
    const colourOf = (to: string) =>
      (BAD.includes(to)
        ? colors.madder
        : to === END_WORDS.gone
          ? colors.stone5
          : to === END_WORDS.home
            ? colors.ochre
            : to === END_WORDS.outside
              ? colors.lapis
              : colors.verdigris) ?? '';
    const flows = props.flows.filter((flow) => value(flow) > 0);
    const text = { color: colors.ink9 ?? '', fontFamily: say('proofChart.redHatMonoVariable'), fontSize: 12 };
    return {
      animation: false,
      aria: { enabled: true, decal: { show: false } },
      tooltip: {
        confine: true,
        backgroundColor: colors.bench,
        borderColor: colors.stone3,
        textStyle: { color: colors.ink9, fontSize: 12 },
        valueFormatter: (n: unknown) =>
          say('proofChart.addresses', { n: Number(n), hasByVisits: Boolean(props.byVisits) }),
      },
      series: [
        {
          type: 'sankey',
          left: 130,
          right: 150,
          top: 4,
          bottom: 8,
          nodeWidth: 9,
          nodeGap: 12,
          draggable: false,
          emphasis: { focus: 'adjacency' },
          layoutIterations: 32,
          data: [
            ...[...new Set(flows.map(({ from }) => from))].map((name) => ({
              name: LEFT + name,
              itemStyle: { color: colors.stone5, borderWidth: 0 },
              label: { position: 'left' as const, ...text, width: 118, overflow: 'truncate' as const, formatter: name },
            })),
            ...[...new Set(flows.map(({ to }) => to))].map((name) => ({
              name: RIGHT + name,
              itemStyle: { color: colourOf(name), borderWidth: 0 },
              label: {
                position: 'right' as const,
                ...text,
                width: 138,
                overflow: 'truncate' as const,
                formatter: name,
              },
            })),
          ],
          links: flows.map((flow) => ({
            source: LEFT + flow.from,
            target: RIGHT + flow.to,
            value: value(flow),
            lineStyle: { color: colourOf(flow.to), opacity: 0.28, curveness: 0.45 },
          })),
        },
      ],
    };
  },
  [() => props.flows, () => props.byVisits],
);
</script>

<template>
  <div ref="box" class="chart" :style="{ height: `${height}px` }" aria-hidden="true" />
</template>

<style scoped>
.chart {
  width: 100%;
}
</style>
