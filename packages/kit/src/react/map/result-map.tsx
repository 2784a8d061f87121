import type { SearchResult } from '@yucca/contract';
import { frameFor, pointAt, roundBelow, type Point } from '../../geo-points.ts';
import { useTexts } from '../use-texts.ts';

const WIDTH = 420;
const HEIGHT = 460;
const MARGIN = 34;
/** Circles of distance around the place that is asked about. */
const RINGS = 4;

/** What `ResultMap` is given. */
export interface ResultMapProps {
  results: readonly SearchResult[];
  /** The field that holds positions. */
  geo: string;
  /** Where distances are measured from. */
  near: Point | null;
  /** The result that is pointed at in the list. */
  pointed: string | null;
  /** Takes the key of the result under the pointer; null = none. */
  onPoint: (id: string | null) => void;
  /** What stands beside the mark of a result when it is pointed at. */
  nameOf: (result: SearchResult) => string;
}

/**
 * Results on a plain map without a background: marks with the numbers of the list, circles of distance around the
 * visitor's place, and a scale bar. It shows nothing that the list does not say, so it is a picture for who cannot see
 * it.
 */
export function ResultMap({ results, geo, near, pointed, onPoint, nameOf }: ResultMapProps) {
  const { say, distance } = useTexts();
  const placed = results.flatMap((result, i) => {
    const point = pointAt(result.record, geo);
    return point ? [{ result, number: i + 1, point }] : [];
  });
  if (placed.length === 0) return null;
  const frame = frameFor([...placed.map(({ point }) => point), ...(near ? [near] : [])], WIDTH, HEIGHT, MARGIN);
  const stepKm = roundBelow((WIDTH - 2 * MARGIN) / frame.perKm / 2.5);
  const marks = placed.map((one) => ({ ...one, ...frame.place(one.point) }));
  // What is pointed at lies on top.
  marks.sort((a, b) => Number(a.result.id === pointed) - Number(b.result.id === pointed) || b.number - a.number);
  return (
    <svg
      data-part="map"
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role="img"
      aria-label={say('map', { count: placed.length, distance: distance(stepKm * 1000) })}
    >
      {near && <Rings centre={frame.place(near)} stepUnits={stepKm * frame.perKm} stepKm={stepKm} />}
      {marks.map(({ result, number, x, y }) => (
        <g
          key={result.id}
          data-part="map-mark"
          data-pointed={result.id === pointed}
          onPointerEnter={() => onPoint(result.id)}
          onPointerLeave={() => onPoint(null)}
        >
          <circle cx={x} cy={y} r={result.id === pointed ? 12 : 9} />
          <text x={x} y={y + 3.5} textAnchor="middle">
            {number}
          </text>
        </g>
      ))}
      {marks
        .filter(({ result }) => result.id === pointed)
        .map(({ result, x, y }) => (
          <text
            key="name"
            data-part="map-name"
            x={Math.min(Math.max(x, 90), WIDTH - 90)}
            y={y < 40 ? y + 28 : y - 18}
            textAnchor="middle"
          >
            {nameOf(result)}
          </text>
        ))}
      <ScaleBar units={stepKm * frame.perKm} label={distance(stepKm * 1000)} />
    </svg>
  );
}

function Rings({ centre, stepUnits, stepKm }: { centre: { x: number; y: number }; stepUnits: number; stepKm: number }) {
  const { distance } = useTexts();
  const { x, y } = centre;
  return (
    <g data-part="map-rings">
      {Array.from({ length: RINGS }, (_, i) => (
        <g key={i}>
          <circle cx={x} cy={y} r={(i + 1) * stepUnits} />
          <text x={x} y={y - (i + 1) * stepUnits - 3} textAnchor="middle">
            {distance((i + 1) * stepKm * 1000)}
          </text>
        </g>
      ))}
      <path data-part="map-here" d={`M${x - 7} ${y}h14M${x} ${y - 7}v14`} />
    </g>
  );
}

function ScaleBar({ units, label }: { units: number; label: string }) {
  const y = HEIGHT - 14;
  return (
    <g data-part="map-scale">
      <path d={`M14 ${y - 5}v5h${units}v-5`} />
      <text x={14 + units / 2} y={y - 6} textAnchor="middle">
        {label}
      </text>
    </g>
  );
}
