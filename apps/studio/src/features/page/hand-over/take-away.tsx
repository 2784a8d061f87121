'use client';

import { LIMITS, type HandoverTarget } from '@yucca/contract';
import { useState, type FormEvent } from 'react';
import { ask } from '@/ui/api';
import { Button } from '@/ui/button';
import { download } from '@/ui/download';
import { useParam } from '@/ui/use-param';
import { isTarget, TARGETS } from './targets';

/** Origins as somebody types them: parted by spaces, commas or lines; a path behind one is dropped. */
export function originsIn(text: string): string[] {
  const found = text
    .split(/[\s,;]+/)
    .filter((word) => word !== '')
    .map((word) => (URL.canParse(word) && word.startsWith('http') ? new URL(word).origin : word));
  return [...new Set(found)];
}

/** Asks for the page as files; returns the name they are kept under. */
async function takeAway(slug: string, target: HandoverTarget, origins: string[]): Promise<string> {
  const response = await ask(`/interfaces/${slug}/handover`, {
    method: 'POST',
    json: { target, ...(origins.length > 0 && target !== 'static' && { origins }) },
  });
  const name = /filename="([^"]+)"/.exec(response.headers.get('content-disposition') ?? '')?.[1] ?? `${slug}.zip`;
  download(await response.blob(), name);
  return name;
}

/** The target that is chosen, and the function that chooses another. */
export function useTarget(): [HandoverTarget, (target: string) => void] {
  const [target, setTarget] = useParam('target');
  return [isTarget(target) ? target : 'html', (next) => setTarget(next === 'html' ? '' : next)];
}

/** The live page as files, with a search key made for it. */
export function TakeAway({ slug, records, onTaken }: { slug: string; records: number; onTaken: () => void }) {
  const [target, setTarget] = useTarget();
  const [text, setText] = useState('');
  const [said, setSaid] = useState<{ problem: boolean; text: string } | null>(null);
  const [busy, setBusy] = useState(false);
  const take = (event: FormEvent): void => {
    event.preventDefault();
    setBusy(true);
    setSaid(null);
    takeAway(slug, target, originsIn(text))
      .then(
        (name) => {
          const key = target === 'static' ? '' : ' Its key is listed under Keys.';
          setSaid({ problem: false, text: `${name} is among your downloads.${key}` });
          onTaken();
        },
        (error: Error) => setSaid({ problem: true, text: error.message }),
      )
      .finally(() => setBusy(false));
  };
  return (
    <form className="grid gap-3" onSubmit={take}>
      <fieldset className="grid gap-1">
        <legend className="mb-1 text-[15px] font-semibold">Take the live page away as</legend>
        {TARGETS.map(([name, title, about]) => (
          <label
            key={name}
            className="grid grid-cols-[auto_minmax(0,1fr)] gap-x-2 rounded-md px-2 py-1.5 has-checked:bg-agave-tint"
          >
            <input
              type="radio"
              name="target"
              value={name}
              checked={name === target}
              onChange={() => {
                setTarget(name);
                setSaid(null);
              }}
            />
            <span className="font-medium">{title}</span>
            <span className="col-start-2 text-xs text-soft">{about}</span>
          </label>
        ))}
      </fieldset>
      {target === 'static' ? (
        <Estimate records={records} />
      ) : (
        <label className="grid gap-1 text-[13px]">
          Sites it will stand on
          <input
            className="field figures text-[13px]"
            placeholder="https://shop.example"
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          <span className="text-xs text-soft">Empty: its key may be used from anywhere, also from a folder.</span>
        </label>
      )}
      <p>
        <Button type="submit" kind="primary" disabled={busy}>
          {busy ? 'Making it …' : 'Download'}
        </Button>
      </p>
      {said && (
        <p role={said.problem ? 'alert' : 'status'} className={said.problem ? 'text-madder' : 'text-soft'}>
          {said.text}
        </p>
      )}
    </form>
  );
}

/** Bytes of a record as it is packed, with its part of the index, and records packed in a second: see the bench. */
const PACKED_BYTES = 580;
const RECORDS_A_SECOND = 4_000;

/** What a folder without a server will weigh and take. */
function Estimate({ records }: { records: number }) {
  if (records > LIMITS.offlineRecords)
    return (
      <p role="note" className="text-[13px] text-madder">
        A folder without a server holds {LIMITS.offlineRecords.toLocaleString('en')} records; here are{' '}
        {records.toLocaleString('en')}. Over HTTP, a key with a filter makes them fewer.
      </p>
    );
  const mb = Math.max(0.1, (records * PACKED_BYTES) / 1_000_000);
  return (
    <p role="note" className="text-[13px] text-soft">
      {records.toLocaleString('en')} records: about {mb.toLocaleString('en', { maximumFractionDigits: 1 })} MB besides
      pictures, made in about {Math.ceil(records / RECORDS_A_SECOND)} s. It needs no key; whoever has the folder has the
      records.
    </p>
  );
}
