'use client';

import { useState } from 'react';
import { wordList } from '../levers';

/** A list of words as text: taken over when the field is left, so that half a word is never searched for. */
export function WordsField({
  label,
  words,
  onWords,
}: {
  label: string;
  words: string[];
  onWords: (words: string[]) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  return (
    <label className="block text-[13px]">
      {label}
      <textarea
        className="field mt-0.5 text-[13px]"
        rows={2}
        spellCheck={false}
        value={text ?? words.join(', ')}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => {
          if (text !== null) onWords(wordList(text));
          setText(null);
        }}
      />
    </label>
  );
}
