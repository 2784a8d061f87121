import { counted } from '@/ui/format';

interface HeaderChoiceProps {
  /** Of the header, from 1. */
  line: number;
  /** What stands above it. */
  above: readonly string[];
  /** Lines that may hold it. */
  lines: number;
  disabled: boolean;
  onLine: (line: number) => void;
}

/** Which line of a table holds its header, where others stand above it: those are no rows. */
export function HeaderChoice({ line, above, lines, disabled, onLine }: HeaderChoiceProps) {
  const told = above.filter((text) => text.trim() !== '');
  return (
    <p className="mt-3 flex flex-wrap items-center gap-2">
      <label className="flex items-center gap-2">
        <span className="font-medium">Header in line</span>
        <select
          className="field figures w-auto"
          value={line}
          disabled={disabled}
          onChange={(event) => onLine(Number(event.target.value))}
        >
          {Array.from({ length: lines }, (_, i) => (
            <option key={i} value={i + 1}>
              {i + 1}
            </option>
          ))}
        </select>
      </label>
      <span className="min-w-0 flex-1 truncate text-soft">
        {above.length === 0 ? 'the first line' : `${counted(above.length, 'line')} above it left out`}
        {told.length > 0 && `: ${told.join(' · ')}`}
      </span>
    </p>
  );
}
