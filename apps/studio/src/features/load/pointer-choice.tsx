import type { RecordPointer } from '@yucca/engine/understand';
import { counted } from '@/ui/format';

const KINDS: Record<RecordPointer['kind'], string> = {
  list: 'in a list',
  entries: 'by their keys, which become the field “key”',
  groups: 'in groups, whose names become the field “group”',
  lists: 'lists of values by their keys',
  values: 'values by their keys',
};

/** The document itself as one record, among pointers; no pointer reads so. */
const WHOLE = 'whole';

interface PointerChoiceProps {
  places: readonly RecordPointer[];
  at: string | null;
  disabled: boolean;
  onAt: (at: string | null) => void;
}

/** Where in a JSON document its records are: what was found, and every other way to take it. */
export function PointerChoice({ places, at, disabled, onAt }: PointerChoiceProps) {
  return (
    <label className="mt-3 flex items-center gap-2">
      <span className="font-medium">Records at</span>
      <select
        className="field w-auto"
        value={at ?? WHOLE}
        disabled={disabled}
        onChange={({ target: { value } }) => onAt(value === WHOLE ? null : value)}
      >
        {places.map(({ pointer, records, kind }) => (
          <option key={pointer} value={pointer}>
            {pointer === '' ? 'the top' : pointer}: {counted(records, 'record')} {KINDS[kind]}
          </option>
        ))}
        <option value={WHOLE}>the whole document: one record</option>
      </select>
    </label>
  );
}
