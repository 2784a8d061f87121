import { useEffect, useRef, useState, useSyncExternalStore } from 'react';
import type { FirstResults } from '../../lens/first-results.ts';
import type { RequestEntry, RequestLog } from '../../lens/request-log.ts';
import { LINES, type Line } from '../../lens/slow-line.ts';
import { count } from '../../figures.ts';

/** What `NetworkLens` is given. */
export interface NetworkLensProps {
  log: RequestLog;
  line: Line;
  /** Takes the line to try the page on. */
  onLine: (line: Line) => void;
  /** Measures the two ways to the first results, over the line that is chosen. */
  measure?: () => Promise<{ server: FirstResults; browser: FirstResults }>;
}

/** The window that the bars are drawn over is at least this long, in milliseconds. */
const LEAST_SPAN_MS = 400;
/** After a pause of this length a new burst of requests begins, drawn from the left again. */
const BURST_PAUSE_MS = 3_000;

const OUTCOMES: Record<RequestEntry['outcome'], string> = {
  open: 'under way',
  done: 'answered',
  cancelled: 'overtaken, cancelled',
  failed: 'failed',
  cached: 'known already',
};

/** The requests of the last burst of typing: those that follow each other without a long pause. */
export function lastBurst(entries: readonly RequestEntry[]): readonly RequestEntry[] {
  let from = 0;
  entries.forEach((entry, i) => {
    const before = entries[i - 1];
    if (before && entry.start - (before.end ?? entry.start) > BURST_PAUSE_MS) from = i;
  });
  return entries.slice(from);
}

/** Every request of a kit client as a bar: waiting, receiving, overtaken, and over which line. For developers. */
export function NetworkLens({ log, line, onLine, measure }: NetworkLensProps) {
  const all = useSyncExternalStore(log.subscribe, log.snapshot, log.snapshot);
  const entries = lastBurst(all);
  const now = useNow(entries.some(({ outcome }) => outcome === 'open'));
  const from = entries[0]?.start ?? 0;
  const span = Math.max(LEAST_SPAN_MS, ...entries.map(({ end, start }) => (end ?? Math.max(now, start)) - from));
  const cancelled = entries.filter(({ outcome }) => outcome === 'cancelled').length;
  const cached = entries.filter(({ outcome }) => outcome === 'cached').length;
  return (
    <section data-yucca-lens="" aria-label="Network lens">
      <header>
        <h2>Network lens</h2>
        <label>
          Line{' '}
          <select
            value={line.name}
            onChange={(event) => onLine(LINES.find(({ name }) => name === event.target.value) ?? line)}
          >
            {LINES.map(({ name, label }) => (
              <option key={name} value={name}>
                {label}
              </option>
            ))}
          </select>
        </label>
        <p>
          {entries.length} {entries.length === 1 ? 'request' : 'requests'}, {cancelled} overtaken, {cached} known
          already
        </p>
        {measure && <Measurement key={line.name} measure={measure} />}
        <button type="button" onClick={() => log.clear()}>
          Clear
        </button>
      </header>
      {entries.length === 0 ? (
        <p>Type into the search field: every request appears here.</p>
      ) : (
        <Waterfall entries={entries} from={from} span={span} now={now} />
      )}
    </section>
  );
}

interface WaterfallProps {
  entries: readonly RequestEntry[];
  from: number;
  span: number;
  now: number;
}

function Waterfall({ entries, from, span, now }: WaterfallProps) {
  const end = useRef<HTMLTableSectionElement>(null);
  useEffect(() => {
    end.current?.lastElementChild?.scrollIntoView?.({ block: 'nearest' });
  }, [entries.length]);
  const percent = (ms: number): string => `${(100 * Math.max(0, ms)) / span}%`;
  return (
    <div data-part="scroll" tabIndex={0}>
      <table>
        <thead>
          <tr>
            <th scope="col">Typed</th>
            <th scope="col">Asked</th>
            <th scope="col">Over {count(Math.round(span))} ms</th>
            <th scope="col">Time</th>
            <th scope="col">Engine</th>
            <th scope="col">Letters</th>
          </tr>
        </thead>
        <tbody ref={end}>
          {entries.map((entry) => {
            const until = entry.end ?? Math.max(now, entry.start);
            const head = entry.head ?? until;
            return (
              <tr key={entry.id} data-outcome={entry.outcome}>
                <td>{entry.text === '' ? <i>nothing</i> : entry.text}</td>
                <td>{entry.what}</td>
                <td>
                  <span data-part="lane" title={OUTCOMES[entry.outcome]}>
                    <span
                      data-part="waiting"
                      style={{ left: percent(entry.start - from), width: percent(head - entry.start) }}
                    />
                    <span data-part="receiving" style={{ left: percent(head - from), width: percent(until - head) }} />
                  </span>
                </td>
                <td>
                  {entry.outcome === 'done'
                    ? `${Math.round(until - entry.start)} ms`
                    : entry.outcome === 'open'
                      ? '…'
                      : OUTCOMES[entry.outcome]}
                </td>
                <td>{entry.engineMs === null ? '' : `${entry.engineMs} ms`}</td>
                <td>{entry.bytes === 0 ? '' : count(entry.bytes)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

function Measurement({ measure }: { measure: NonNullable<NetworkLensProps['measure']> }) {
  const [found, setFound] = useState<Awaited<ReturnType<typeof measure>> | 'measuring' | Error | null>(null);
  const start = (): void => {
    setFound('measuring');
    measure().then(setFound, (error: Error) => setFound(error));
  };
  const words = ({ ms, bytes, requests }: FirstResults): string =>
    `${count(Math.round(ms))} ms (${requests} ${requests === 1 ? 'request' : 'requests'}, ${count(Math.round(bytes / 1000))} kB)`;
  return (
    <>
      <button type="button" onClick={start} disabled={found === 'measuring'}>
        Measure first results
      </button>
      <p role="status">
        {found === 'measuring' && 'Measuring …'}
        {found instanceof Error && `It could not be measured: ${found.message}`}
        {found !== null && found !== 'measuring' && !(found instanceof Error) && (
          <>
            in the HTML {words(found.server)}, drawn in the browser {words(found.browser)}
          </>
        )}
      </p>
    </>
  );
}

/** The time, running while `active`. */
function useNow(active: boolean): number {
  const [now, setNow] = useState(0);
  useEffect(() => {
    if (!active) return;
    let frame = 0;
    const tick = (): void => {
      setNow(performance.now());
      frame = requestAnimationFrame(tick);
    };
    tick();
    return () => cancelAnimationFrame(frame);
  }, [active]);
  return now;
}
