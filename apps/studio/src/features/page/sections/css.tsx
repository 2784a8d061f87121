'use client';

import dynamic from 'next/dynamic';
import { useDraft, useSetDesign } from '../draft';
import { useOwnCss } from '../own-css';
import { Setting } from '../setting';

const CssEditor = dynamic(() => import('../css-editor'), {
  ssr: false,
  loading: () => <p className="text-[13px] text-soft">The editor comes …</p>,
});

/** A style sheet of the page's own. */
export function CssSection() {
  const [{ document }] = useDraft();
  const set = useSetDesign();
  const { css = '' } = document;
  const problems = useOwnCss(document.css)?.problems ?? [];
  return (
    <Setting isSet={document.css !== undefined} usual="none" onReset={() => set('css', undefined)}>
      <div className="grid gap-2">
        <CssEditor
          text={css}
          problems={problems}
          onText={(text) => set('css', text === '' ? undefined : text, 'css')}
        />
        <div role="status" className="text-[13px]">
          {problems.length > 0 && (
            <ul className="grid gap-1 text-madder">
              {problems.slice(0, 8).map(({ line, column, detail }) => (
                <li key={`${line} ${column} ${detail}`}>
                  <span className="figures">
                    {line}:{column}
                  </span>{' '}
                  {detail}
                </li>
              ))}
              {problems.length > 8 && <li>and {problems.length - 8} more</li>}
            </ul>
          )}
        </div>
        <p className="text-xs text-soft">
          Rules hold for this page alone, wherever it stands; <code className="figures">:scope</code> is the page.
          Control+Space lists the names of its parts. Pictures and letters come from this server or from the sheet
          itself (<code className="figures">data:image/…</code>).
        </p>
      </div>
    </Setting>
  );
}
