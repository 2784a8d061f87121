'use client';

import type { ECharts, EChartsCoreOption } from 'echarts/core';
import { useEffect, useRef, useState } from 'react';
import { useThemeName } from './use-theme-tokens';

/** The drawing library comes with the first chart that is seen: 86 kB that no other screen pays for. */
async function load() {
  const [core, charts, components, renderers] = await Promise.all([
    import('echarts/core'),
    import('echarts/charts'),
    import('echarts/components'),
    import('echarts/renderers'),
  ]);
  core.use([
    charts.BarChart,
    charts.LineChart,
    components.GridComponent,
    components.MarkLineComponent,
    components.TooltipComponent,
    renderers.SVGRenderer,
  ]);
  return core;
}

/** A chart, drawn as SVG once it comes into view. `describe` says it in words, for whoever does not see it. */
export function Chart({
  option,
  height,
  describe,
}: {
  option: () => EChartsCoreOption;
  height: number;
  describe: string;
}) {
  const box = useRef<HTMLDivElement>(null);
  const [seen, setSeen] = useState(false);
  const theme = useThemeName();
  const latest = useRef(option);
  useEffect(() => {
    latest.current = option;
  });
  useEffect(() => {
    const observer = new IntersectionObserver(([entry]) => entry?.isIntersecting && setSeen(true), {
      rootMargin: '200px',
    });
    observer.observe(box.current!);
    return () => observer.disconnect();
  }, []);
  useEffect(() => {
    if (!seen) return;
    let chart: ECharts | null = null;
    let gone = false;
    void load().then((core) => {
      if (gone || box.current === null) return;
      chart = core.init(box.current, null, { renderer: 'svg' });
      chart.setOption({
        animation: false,
        textStyle: { fontFamily: getComputedStyle(document.body).fontFamily },
        ...latest.current(),
      });
    });
    const onSize = new ResizeObserver(() => chart?.resize());
    onSize.observe(box.current!);
    return () => {
      gone = true;
      onSize.disconnect();
      chart?.dispose();
    };
  }, [seen, theme]);
  return <div ref={box} role="img" aria-label={describe} style={{ height }} />;
}
