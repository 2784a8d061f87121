import { CHARSETS } from '@/text/charset';

interface CharsetChoiceProps {
  charset: string;
  disabled: boolean;
  onCharset: (charset: string) => void;
}

/** What a file is written in: shown where it is not UTF-8, because it can only be told by its letters. */
export function CharsetChoice({ charset, disabled, onCharset }: CharsetChoiceProps) {
  const known = (CHARSETS as readonly string[]).includes(charset);
  return (
    <label className="mt-3 flex items-center gap-2">
      <span className="font-medium">Written in</span>
      <select
        className="field w-auto"
        value={charset}
        disabled={disabled}
        onChange={({ target: { value } }) => onCharset(value)}
      >
        {!known && <option value={charset}>{charset}</option>}
        {CHARSETS.map((name) => (
          <option key={name} value={name}>
            {name}
          </option>
        ))}
      </select>
      <span className="text-soft">Another one, where letters look wrong above.</span>
    </label>
  );
}
