<script lang="ts">
  import { BarChart } from 'echarts/charts';
  import { AriaComponent, GridComponent, TooltipComponent } from 'echarts/components';
  import { init, use, type ECharts } from 'echarts/core';
  import { CanvasRenderer } from 'echarts/renderers';
  import type { BenchUnit } from './issue-desk.svelte';

  use([BarChart, GridComponent, TooltipComponent, AriaComponent, CanvasRenderer]);
  const { units }: { units: readonly BenchUnit[] } = $props();

  const ROW_PX = 30;
  const MOST = 20;
  /** What was worked on last comes first. */
  const shown = $derived([...units].sort((a, b) => (a.last < b.last ? 1 : -1)).slice(0, MOST));
  const nameOf = (u: BenchUnit) => `${u.serial || 'no number'} · ${u.revision}`;
  let target = $state<HTMLElement>();
  let chart = $state.raw<ECharts>();
  $effect(() => {
    if (!target) return;
    const made = init(target);
    chart = made;
    return () => made.dispose();
  });
  const color = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim();
  $effect(() => {
    if (!chart) return;
    const [ink, mute, line, teal, good] = ['--ink', '--mute', '--line', '--teal', '--good'].map(color);
    chart.resize({ height: 26 + shown.length * ROW_PX });
    chart.setOption(
      {
        animation: false,
        aria: { enabled: true, label: { description: `Steps that are done on ${shown.length} units.` } },
        grid: { left: 4, right: 44, top: 4, bottom: 4, containLabel: true },
        xAxis: { type: 'value', max: Math.max(1, ...shown.map((u) => u.total)), minInterval: 1, axisLabel: { show: false }, splitLine: { show: false } },
        yAxis: { type: 'category', inverse: true, data: shown.map(nameOf), axisTick: { show: false }, axisLine: { show: false }, axisLabel: { color: ink } },
        tooltip: {
          formatter: ({ dataIndex }: { dataIndex: number }) => {
            const u = shown[dataIndex]!;
            return `${u.steps} of ${u.total} steps<br>${u.last.slice(0, 16).replace('T', ' ')}<br>${u.who.replaceAll('<', '&lt;')}`;
          },
        },
        series: [
          {
            type: 'bar',
            barWidth: 14,
            showBackground: true,
            backgroundStyle: { color: line, borderRadius: 4 },
            itemStyle: { borderRadius: 4 },
            data: shown.map((u) => ({ value: u.steps, itemStyle: { color: u.total && u.steps >= u.total ? good || teal : teal } })),
            label: {
              show: true,
              position: 'right',
              color: mute,
              formatter: ({ dataIndex }: { dataIndex: number }) => `${shown[dataIndex]!.steps}/${shown[dataIndex]!.total}`,
            },
          },
        ],
      },
      true,
    );
  });
</script>

<div bind:this={target} style:height="{26 + shown.length * ROW_PX}px" data-testid="units"></div>
