import { LIMITS } from '@yucca/contract';
import { useRef } from 'react';
import { useProbeKey } from './use-probe-key';

/** The field a probe is typed into: `/` goes to it from anywhere, Escape empties it. */
export function ProbeInput({
  id,
  text,
  onText,
  placeholder,
}: {
  id: string;
  text: string;
  onText: (text: string) => void;
  placeholder: string;
}) {
  const input = useRef<HTMLInputElement>(null);
  useProbeKey(input);
  return (
    <input
      id={id}
      ref={input}
      className="field"
      title="Press / to come here, Escape to empty it"
      placeholder={placeholder}
      autoComplete="off"
      spellCheck={false}
      maxLength={LIMITS.queryLength}
      value={text}
      onChange={(event) => onText(event.target.value)}
      onKeyDown={(event) => event.key === 'Escape' && onText('')}
    />
  );
}
