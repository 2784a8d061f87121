import { useState } from 'react';
import { withNear, type Near, type Query } from '../../query.ts';
import { useTexts } from '../use-texts.ts';

/** Ends of "within", in kilometres. */
const WITHIN_KM = [5, 10, 25, 50, 100];

/** What `NearChoice` is given. */
export interface NearChoiceProps {
  query: Query;
  places: readonly { name: string; lat: number; lng: number }[];
  /** Takes the query with another place, or none. */
  onQuery: (query: Query) => void;
}

const keyOf = ({ lat, lng }: Near): string => `${lat},${lng}`;

/** Where to measure from: a place of a list, or where the visitor's device is; and how far away is near enough. */
export function NearChoice({ query, places, onQuery }: NearChoiceProps) {
  const { say, distance } = useTexts();
  const { near } = query;
  const [problem, setProblem] = useState('');
  const known = near !== null && places.some((place) => keyOf(place) === keyOf(near));
  const go = (to: Near | null): void => onQuery(withNear(query, to));
  const within = near?.withinM !== undefined && { withinM: near.withinM };
  const here = (): void => {
    setProblem('');
    navigator.geolocation.getCurrentPosition(
      // A hundred metres say enough, and less about who asks.
      ({ coords }) => go({ lat: rounded(coords.latitude), lng: rounded(coords.longitude), ...within }),
      () => setProblem(say('noPosition')),
      { maximumAge: 600_000, timeout: 10_000 },
    );
  };
  return (
    <div data-part="near">
      <label>
        <span>{say('near')}</span>
        <select
          name="near"
          value={near === null ? '' : keyOf(near)}
          onChange={(event) => {
            const place = places.find((one) => keyOf(one) === event.target.value);
            go(place ? { lat: place.lat, lng: place.lng, ...within } : null);
          }}
        >
          <option value="">{say('anywhere')}</option>
          {near !== null && !known && <option value={keyOf(near)}>{`${near.lat}, ${near.lng}`}</option>}
          {places.map((place) => (
            <option key={keyOf(place)} value={keyOf(place)}>
              {place.name}
            </option>
          ))}
        </select>
      </label>
      <button type="button" data-part="button" onClick={here}>
        {say('whereIAm')}
      </button>
      {near !== null && (
        <label>
          <span>{say('withinDistance')}</span>
          <select
            value={near.withinM === undefined ? '' : String(near.withinM / 1000)}
            onChange={({ target: { value } }) =>
              go({ lat: near.lat, lng: near.lng, ...(value !== '' && { withinM: Number(value) * 1000 }) })
            }
          >
            <option value="">{say('anyDistance')}</option>
            {[...new Set([...WITHIN_KM, ...(near.withinM === undefined ? [] : [near.withinM / 1000])])].map((km) => (
              <option key={km} value={km}>
                {distance(km * 1000)}
              </option>
            ))}
          </select>
        </label>
      )}
      <span role="status" data-part="soft">
        {problem}
      </span>
    </div>
  );
}

const rounded = (degrees: number): number => Math.round(degrees * 1000) / 1000;
