import type { FieldProfile } from '@yucca/contract';
import { Chart } from '@/ui/chart';
import { count } from '@/ui/format';
import { tokenColour } from '@/ui/use-theme-tokens';
import { barsOf, numberWords, rangeWords, type Bar } from './facts';

const BAR_HEIGHT = 16;

/** How the values of a field are spread: bins of numbers and dates, or the commonest values. A table tells the same. */
export function FieldChart({ field, most = 6 }: { field: FieldProfile; most?: number }) {
  const found = barsOf(field);
  if (found === null) return <p className="text-xs text-soft">Almost every value is different.</p>;
  const bars = found.kind === 'top' ? found.bars.slice(0, most) : found.bars;
  return (
    <figure>
      {found.kind === 'spread' ? (
        <>
          <Chart
            height={56}
            option={() => spreadOption(bars)}
            describe={`How the values of ${field.path} are spread`}
          />
          <figcaption className="figures flex justify-between text-xs text-soft">
            <span>{edges(field)[0]}</span>
            <span>{edges(field)[1]}</span>
          </figcaption>
        </>
      ) : (
        <Chart
          height={bars.length * BAR_HEIGHT + 4}
          option={() => topOption(bars)}
          describe={`The commonest values of ${field.path}`}
        />
      )}
      <details className="text-xs">
        <summary className="min-h-6 w-fit text-soft hover:text-ink">as a table</summary>
        <BarTable bars={found.bars} name={field.path} />
      </details>
    </figure>
  );
}

function edges({ numbers, dates }: FieldProfile): [string, string] {
  if (numbers) return [numberWords(numbers.min, numbers), numberWords(numbers.max, numbers)];
  return [dates?.from ?? '', dates?.to ?? ''];
}

function BarTable({ bars, name }: { bars: Bar[]; name: string }) {
  return (
    <table className="figures mb-1 w-full">
      <caption className="sr-only">Values of {name}</caption>
      <tbody>
        {bars.map(({ label, count: found }) => (
          <tr key={label} className="border-t border-line">
            <th scope="row" className="max-w-48 truncate py-0.5 text-left font-normal">
              {label}
            </th>
            <td className="text-right">{count(found)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const tooltip = {
  trigger: 'axis',
  confine: true,
  axisPointer: { type: 'shadow' },
  textStyle: { fontSize: 12 },
} as const;

function spreadOption(bars: Bar[]) {
  return {
    grid: { left: 0, right: 0, top: 2, bottom: 1 },
    tooltip,
    xAxis: { type: 'category', show: false, data: bars.map(({ label }) => label) },
    yAxis: { type: 'value', show: false },
    series: [
      {
        type: 'bar',
        data: bars.map((bar) => bar.count),
        barCategoryGap: '8%',
        barMinHeight: 1,
        itemStyle: { color: tokenColour('field-line') },
      },
    ],
  };
}

function topOption(bars: Bar[]) {
  const largest = Math.max(...bars.map((bar) => bar.count));
  return {
    grid: { left: 104, right: 48, top: 0, bottom: 0 },
    xAxis: { type: 'value', show: false, max: largest },
    yAxis: {
      type: 'category',
      inverse: true,
      data: bars.map(({ label }) => label),
      axisLine: { show: false },
      axisTick: { show: false },
      axisLabel: { width: 96, overflow: 'truncate', fontSize: 12, color: tokenColour('ink') },
    },
    series: [
      {
        type: 'bar',
        data: bars.map((bar) => bar.count),
        barWidth: 9,
        itemStyle: { color: tokenColour('field-line') },
        label: {
          show: true,
          position: 'right',
          fontSize: 12,
          color: tokenColour('ink-soft'),
          formatter: ({ value }: { value: number }) => count(value),
        },
      },
    ],
  };
}

/** A field in one line of words. */
export function FieldWords({ field }: { field: FieldProfile }) {
  const range = rangeWords(field);
  return range === null ? null : <span className="figures text-xs text-soft">{range}</span>;
}
