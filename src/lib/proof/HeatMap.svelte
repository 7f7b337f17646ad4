<script lang="ts">
  import { HeatmapChart } from 'echarts/charts';
  import { AriaComponent, DataZoomComponent, GridComponent, TooltipComponent } from 'echarts/components';
  import { init, use, type ECharts } from 'echarts/core';
  import { CanvasRenderer } from 'echarts/renderers';
  import type { ViewRecord } from '$core/document/records';
  import { isModelled } from '$core/ledger/items';
  import { SEEN_MM2 } from '$core/proof/coverage';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import { areaText, heatRows, shade } from './heat-map';

  use([HeatmapChart, GridComponent, TooltipComponent, DataZoomComponent, AriaComponent, CanvasRenderer]);

  interface Props {
    drawing: Drawing;
    /** Numbers of items that are looked at. */
    lit: readonly number[];
    onpress: (view: ViewRecord, part: string) => void;
    /** An item's name is pressed. */
    onitem: (part: string) => void;
  }
  const { drawing, lit, onpress, onitem }: Props = $props();

  const ROW_PX = 23;
  const HEAD_PX = 30;
  /** More rows than fit are scrolled. */
  const MOST_ROWS = 60;

  const views = $derived(drawing.scene.all('view').filter((v) => !v.off));
  const ordered = $derived([...views].sort((a, b) => drawing.sheets.findIndex((s) => s.id === a.sheet) - drawing.sheets.findIndex((s) => s.id === b.sheet)));
  const cells = $derived(drawing.proof.proved?.cells ?? []);
  const rows = $derived(heatRows(drawing.items.filter(isModelled), cells));
  const shownRows = $derived(Math.min(rows.length, MOST_ROWS));

  let target = $state<HTMLElement>();
  let chart = $state.raw<ECharts>();

  $effect(() => {
    if (!target) return;
    const made = init(target);
    made.on('click', (e) => {
      const { componentType, dataIndex } = e as unknown as { componentType: string; dataIndex?: number };
      if (componentType === 'yAxis') {
        const named = rows[dataIndex ?? -1];
        if (named) onitem(named.item.part);
        return;
      }
      const [x, y] = (e as unknown as { value?: [number, number] }).value ?? [-1, -1];
      const [view, row] = [ordered[x], rows[y]];
      if (view && row) onpress(view, row.item.part);
    });
    chart = made;
    const watch = new ResizeObserver(() => made.resize());
    watch.observe(target);
    return () => {
      watch.disconnect();
      made.dispose();
      chart = undefined;
    };
  });

  const color = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim();
  const short = (s: string, n: number) => (s.length > n ? `${s.slice(0, n - 1)}…` : s);

  $effect(() => {
    if (!chart) return;
    const byKey = new Map(cells.map((c) => [`${c.item} ${c.view}`, c]));
    const most = Math.max(1, ...cells.map((c) => c.visibleMm2));
    const [ink, mute, teal, trouble, line] = ['--ink', '--mute', '--teal', '--trouble-soft', '--line'].map(color);
    const data = rows.flatMap(({ item, most: best }, y) =>
      ordered.map((v, x) => {
        const c = byKey.get(`${item.number} ${v.id}`);
        const mm2 = c?.visibleMm2 ?? 0;
        const k = shade(mm2, most);
        return {
          value: [x, y, mm2],
          itemStyle: {
            color: best < SEEN_MM2 ? trouble : mm2 > 0 ? `rgba(74, 117, 72, ${(0.15 + 0.75 * k).toFixed(2)})` : 'rgba(128, 118, 100, 0.10)',
            borderColor: c?.balloon ? teal : lit.includes(item.number) ? line : 'transparent',
            borderWidth: c?.balloon ? 2 : 1,
            borderRadius: 3,
          },
          label: {
            color: k > 0.72 ? '#ffffff' : ink,
            fontWeight: c?.balloon ? ('bold' as const) : ('normal' as const),
            formatter: mm2 > 0 ? areaText(mm2) : '–',
          },
          share: c?.share ?? 0,
          balloon: c?.balloon ?? false,
        };
      }),
    );
    chart.setOption(
      {
        animation: false,
        aria: { enabled: true, label: { description: `Visible area on paper of ${rows.length} items in ${ordered.length} views.` } },
        grid: { left: 210, right: rows.length > MOST_ROWS ? 28 : 10, top: HEAD_PX, bottom: 4 },
        xAxis: {
          type: 'category',
          position: 'top',
          data: ordered.map((v) => v.name),
          axisTick: { show: false },
          axisLine: { show: false },
          axisLabel: { color: mute, interval: 0, formatter: (n: string) => short(n, Math.max(5, Math.floor(90 / Math.max(1, ordered.length)) + 4)) },
        },
        yAxis: {
          type: 'category',
          inverse: true,
          triggerEvent: true,
          data: rows.map((r) => `${r.item.number}  ${short(r.item.values.description.text, 26)}`),
          axisTick: { show: false },
          axisLine: { show: false },
          axisLabel: {
            color: ink,
            interval: 0,
            align: 'left' as const,
            margin: 200,
            formatter: (name: string, i?: number) => (lit.includes(rows[i ?? -1]?.item.number ?? -1) ? `{on|${name}}` : name),
            rich: { on: { fontWeight: 'bold' as const, color: teal } },
          },
        },
        tooltip: {
          formatter: (p: { data: { value: [number, number, number]; share: number; balloon: boolean } }) => {
            const { value, share, balloon } = p.data;
            const [x, y, mm2] = value;
            const words = [
              `${areaText(mm2)} mm² on paper`,
              ...(share > 0 ? [`${Math.round(share * 100)} % of its outline`] : []),
              ...(balloon ? ['has its balloon here'] : []),
            ];
            return `${rows[y]?.item.number ?? ''} in ${ordered[x]?.name ?? ''}<br>${words.join('<br>')}`.replaceAll('&', '&amp;');
          },
        },
        ...(rows.length > MOST_ROWS
          ? {
              dataZoom: [
                {
                  type: 'slider',
                  yAxisIndex: 0,
                  right: 4,
                  width: 14,
                  startValue: 0,
                  endValue: MOST_ROWS - 1,
                  zoomLock: true,
                  brushSelect: false,
                  showDetail: false,
                },
                { type: 'inside', yAxisIndex: 0, zoomOnMouseWheel: false, moveOnMouseWheel: true, startValue: 0, endValue: MOST_ROWS - 1 },
              ],
            }
          : {}),
        series: [{ type: 'heatmap', data, label: { show: true, fontSize: 11 }, emphasis: { itemStyle: { shadowBlur: 0, borderColor: teal, borderWidth: 2 } } }],
      },
      true,
    );
  });
</script>

<h2>Where each item can be seen, and where it is identified</h2>
<p class="sub">Visible area on paper, mm². A frame marks the balloon. Press a cell to open its view, a name for ways to show the item better.</p>
<div class="map" style:height="{HEAD_PX + 4 + shownRows * ROW_PX}px" bind:this={target} data-testid="coverage"></div>

<style>
  h2 {
    font-weight: 600;
    font-size: 1.05rem;
  }
  .sub {
    color: var(--mute);
    font-size: 0.85rem;
  }
  .map {
    flex: none;
    width: 100%;
    max-width: 900px;
    margin-top: 0.5rem;
  }
</style>
