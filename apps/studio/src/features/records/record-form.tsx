import { parsedJson } from '@yucca/contract';
import type { RecordJson } from '@yucca/contract';
import { useState } from 'react';

/** A record as a form: one row a field, each edited as what it is. What has a shape of its own is edited as JSON. */
export function RecordForm({
  record,
  keyField,
  isNew,
  onRecord,
}: {
  record: RecordJson;
  keyField: string;
  isNew: boolean;
  onRecord: (record: RecordJson) => void;
}) {
  const set = (name: string, value: unknown): void =>
    onRecord(
      Object.fromEntries(Object.entries(record).map(([key, old]) => [key, key === name ? value : old])) as RecordJson,
    );
  return (
    <div className="min-h-0 flex-1 overflow-y-auto pr-1">
      {Object.entries(record).map(([name, value]) => (
        <div key={name} className="grid grid-cols-[150px_1fr] items-start gap-3 border-b border-line py-1.5">
          <label htmlFor={`record-${name}`} className="figures truncate pt-1 text-[13px]" title={name}>
            {name}
          </label>
          <FieldInput
            id={`record-${name}`}
            value={value}
            locked={name === keyField && !isNew}
            onValue={(next) => set(name, next)}
          />
        </div>
      ))}
    </div>
  );
}

function FieldInput({
  id,
  value,
  locked,
  onValue,
}: {
  id: string;
  value: unknown;
  locked: boolean;
  onValue: (value: unknown) => void;
}) {
  if (typeof value === 'boolean')
    return (
      <input
        id={id}
        type="checkbox"
        className="mt-2"
        checked={value}
        onChange={(event) => onValue(event.target.checked)}
      />
    );
  if (typeof value === 'number')
    return (
      <input
        id={id}
        type="number"
        step="any"
        className="field figures"
        disabled={locked}
        value={value}
        onChange={(event) => event.target.value !== '' && onValue(Number(event.target.value))}
      />
    );
  if (typeof value === 'string')
    return value.length > 60 || value.includes('\n') ? (
      <textarea id={id} className="field" rows={4} value={value} onChange={(event) => onValue(event.target.value)} />
    ) : (
      <input
        id={id}
        className="field"
        disabled={locked}
        value={value}
        onChange={(event) => onValue(event.target.value)}
      />
    );
  if (Array.isArray(value) && value.every((item) => typeof item === 'string'))
    return (
      <textarea
        id={id}
        className="field"
        title="One value a line"
        rows={Math.min(6, value.length + 1)}
        value={value.join('\n')}
        onChange={(event) => onValue(event.target.value === '' ? [] : event.target.value.split('\n'))}
      />
    );
  return <JsonField id={id} value={value} onValue={onValue} />;
}

/** A part as JSON: it is taken over whenever it can be read. */
function JsonField({ id, value, onValue }: { id: string; value: unknown; onValue: (value: unknown) => void }) {
  const [text, setText] = useState(() => JSON.stringify(value));
  const [wrong, setWrong] = useState(false);
  return (
    <span>
      <textarea
        id={id}
        className="field figures text-[13px]"
        spellCheck={false}
        rows={2}
        aria-invalid={wrong}
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          const value = parsedJson(event.target.value);
          setWrong(value === undefined);
          if (value !== undefined) onValue(value);
        }}
      />
      {wrong && <span className="text-xs text-madder">Not JSON yet; the last readable state is kept.</span>}
    </span>
  );
}
