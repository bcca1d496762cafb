/** A chart in the house's colours: drawn when it is there, again when its figures or the theme change, as wide as its box. */
import { useElementSize } from '@vueuse/core';
import { init, type ECharts, type EChartsCoreOption } from 'echarts/core';
import { onBeforeUnmount, onMounted, watch, type Ref } from 'vue';
import { useTheme } from 'vuetify';

export type ChartColours = ReturnType<typeof useTheme>['current']['value']['colors'];

/**
 * @param option what is drawn, from the theme's colours
 * @param reasons after whose change it is drawn anew
 */
export function useChart(
  box: Ref<HTMLElement | undefined>,
  option: (colours: ChartColours) => EChartsCoreOption,
  reasons: readonly (() => unknown)[],
): void {
  const theme = useTheme();
  const { width, height } = useElementSize(box);
  let chart: ECharts | undefined;
  const draw = () => chart?.setOption(option(theme.current.value.colors), true);
  onMounted(() => {
    if (!box.value) return;
    chart = init(box.value);
    draw();
  });
  onBeforeUnmount(() => chart?.dispose());
  watch([...reasons, () => theme.global.name.value], draw);
  watch([width, height], () => chart?.resize());
}
