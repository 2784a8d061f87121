import { useState } from 'react';
import { CopyButton } from '@/ui/copy-button';
import { SENDERS } from './sender-code';

/** Code that sends a change, in the language of the source. */
export function SenderCode({ address }: { address: string }) {
  const [language, setLanguage] = useState(SENDERS[0]!.language);
  const sender = SENDERS.find((one) => one.language === language)!;
  const code = sender.code(address);
  return (
    <>
      <div className="mb-2 flex items-center gap-3">
        <h3 className="text-[15px] font-semibold">How to send</h3>
        <div role="group" aria-label="Language" className="flex gap-1">
          {SENDERS.map((one) => (
            <button
              key={one.language}
              type="button"
              aria-pressed={one.language === language}
              className={
                one.language === language
                  ? 'min-h-8 rounded-md border border-ink bg-ink px-2 text-paper'
                  : 'min-h-8 rounded-md border border-line px-2 hover:border-field-line'
              }
              onClick={() => setLanguage(one.language)}
            >
              {one.language}
            </button>
          ))}
        </div>
        <span className="figures text-xs text-soft">{sender.file}</span>
        <span className="ml-auto">
          <CopyButton text={code} />
        </span>
      </div>
      <pre
        tabIndex={0}
        aria-label={sender.file}
        className="figures max-h-80 overflow-auto rounded-md border border-line bg-raised p-3 text-xs leading-5"
      >
        {code}
      </pre>
    </>
  );
}
