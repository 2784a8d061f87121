import type { Insights } from '@yucca/contract';
import { Chart } from '@/ui/chart';
import { count } from '@/ui/format';
import { tokenColour } from '@/ui/use-theme-tokens';

const day = new Intl.DateTimeFormat('en', { day: 'numeric', month: 'short', timeZone: 'UTC' });
const hour = new Intl.DateTimeFormat('en', { hour: '2-digit', minute: '2-digit', day: 'numeric', month: 'short', timeZone: 'UTC', hourCycle: 'h23' }); // prettier-ignore

/** Searches over time, those that found nothing below them, the days before behind; with what was published. */
export function Curve({ insights }: { insights: Insights }) {
  const { series, seriesBefore, published, interval } = insights;
  const label = (at: string): string => (interval === 'hour' ? hour : day).format(new Date(at));
  // Of those published within one point, the last.
  const versionAt = new Map<number, number>();
  for (const { at, version } of published) {
    const point = series.findLastIndex((one) => one.at <= at);
    versionAt.set(point, Math.max(version, versionAt.get(point) ?? 0));
  }
  return (
    <figure>
      <Chart
        height={150}
        describe="Searches over time, and those that found nothing"
        option={() => ({
          grid: { left: 40, right: 8, top: 18, bottom: 20 },
          tooltip: { trigger: 'axis', confine: true, textStyle: { fontSize: 12 } },
          xAxis: {
            type: 'category',
            data: series.map(({ at }) => label(at)),
            axisLine: { lineStyle: { color: tokenColour('line') } },
            axisTick: { show: false },
            axisLabel: { fontSize: 11, color: tokenColour('soft') },
          },
          yAxis: {
            type: 'value',
            splitNumber: 3,
            minInterval: 1,
            splitLine: { lineStyle: { color: tokenColour('line') } },
            axisLabel: { fontSize: 11, color: tokenColour('soft') },
          },
          series: [
            {
              name: 'Days before',
              type: 'line',
              symbol: 'none',
              lineStyle: { width: 1, type: [3, 3], color: tokenColour('soft') },
              itemStyle: { color: tokenColour('soft') },
              data: seriesBefore.map(({ searches }) => searches),
            },
            {
              name: 'Searches',
              type: 'line',
              symbol: 'circle',
              symbolSize: series.length > 40 ? 0 : 4,
              lineStyle: { width: 1.5, color: tokenColour('ink') },
              itemStyle: { color: tokenColour('ink') },
              data: series.map(({ searches }) => searches),
              markLine: {
                symbol: 'none',
                silent: true,
                lineStyle: { color: tokenColour('agave'), width: 1, type: 'solid' },
                label: { fontSize: 11, color: tokenColour('agave'), formatter: '{b}' },
                data: [...versionAt].map(([point, version]) => ({ name: `◆ v${version}`, xAxis: point })),
              },
            },
            {
              name: 'Found nothing',
              type: 'bar',
              barWidth: '40%',
              itemStyle: { color: tokenColour('clay') },
              data: series.map(({ nothing }) => nothing),
            },
          ],
        })}
      />
      <figcaption className="flex flex-wrap items-center gap-x-4 text-xs text-soft">
        <span>
          <span aria-hidden="true">●</span> searches
        </span>
        <span>
          <span aria-hidden="true">┄</span> the days before
        </span>
        <span className="text-clay">
          <span aria-hidden="true">▮</span> found nothing
        </span>
        {published.length > 0 && <span className="text-agave">◆ a tuning was published</span>}
        <details>
          <summary className="min-h-6 w-fit hover:text-ink">as a table</summary>
          <table className="figures my-1 text-ink">
            <thead>
              <tr className="text-left">
                <th scope="col" className="pr-6 font-medium">
                  When (UTC)
                </th>
                <th scope="col" className="pr-6 text-right font-medium">
                  Searches
                </th>
                <th scope="col" className="pr-6 text-right font-medium">
                  Found nothing
                </th>
                <th scope="col" className="pr-6 text-right font-medium">
                  With a click
                </th>
                <th scope="col" className="text-right font-medium">
                  Days before
                </th>
              </tr>
            </thead>
            <tbody>
              {series.map((point, i) => (
                <tr key={point.at} className="border-t border-line">
                  <th scope="row" className="pr-6 text-left font-normal">
                    {label(point.at)}
                  </th>
                  <td className="pr-6 text-right">{count(point.searches)}</td>
                  <td className="pr-6 text-right">{count(point.nothing)}</td>
                  <td className="pr-6 text-right">{count(point.clicked)}</td>
                  <td className="text-right">{count(seriesBefore[i]?.searches ?? 0)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </details>
      </figcaption>
    </figure>
  );
}
