'use client';

import { useRouter } from 'next/navigation';
import { Dialog } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';

/** A place that `g` and a letter lead to. */
export interface Place {
  letter: string;
  name: string;
  href: string;
}

/** The second key must follow the first within this time. */
const FOLLOWS_MS = 1500;

const OTHERS: [keys: string, what: string][] = [
  ['/', 'to the probe'],
  ['Alt ↑ ↓', 'the kept queries, one after the other (Tuning)'],
  ['Ctrl Z', 'undo a change of the draft; with Shift, do it again'],
  ['Esc', 'empty the probe, or close what is on top'],
  ['?', 'this list'],
];

/** Where `g` and a letter lead: the collection's stages when one is open, and what concerns all of them. */
export function placesFor(collection: string | null): Place[] {
  const base = `/c/${collection}`;
  const stages: Place[] =
    collection === null
      ? []
      : [
          { letter: 'r', name: 'Records', href: `${base}/records` },
          { letter: 'e', name: 'Feeds', href: `${base}/feeds` },
          { letter: 'f', name: 'Fields', href: `${base}/fields` },
          { letter: 't', name: 'Tuning', href: `${base}/tuning` },
          { letter: 'j', name: 'Judgements', href: `${base}/judgements` },
          { letter: 'i', name: 'Insights', href: `${base}/insights` },
          { letter: 's', name: 'Page', href: `${base}/page` },
        ];
  return [
    ...stages,
    { letter: 'o', name: 'Overview', href: '/' },
    { letter: 'a', name: 'API', href: '/api' },
    { letter: 'k', name: 'Keys', href: '/keys' },
  ];
}

/** The keys of the studio: `g` and a letter goes to a stage, `?` lists them all. */
export function Shortcuts({ collection }: { collection: string | null }) {
  const router = useRouter();
  const [open, setOpen] = useState(false);
  const went = useRef(0);
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const { target } = event;
      const typing =
        target instanceof HTMLElement && target.matches('input, textarea, select, [contenteditable], [role=textbox]');
      if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === '?') return setOpen(true);
      if (event.key === 'g') {
        went.current = Date.now();
        return;
      }
      const place = placesFor(collection).find(({ letter }) => letter === event.key);
      if (place === undefined || Date.now() - went.current > FOLLOWS_MS) return;
      event.preventDefault();
      went.current = 0;
      router.push(place.href);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [collection, router]);
  const rows: [string, string][] = [
    ...placesFor(collection).map(({ letter, name }): [string, string] => [`g ${letter}`, name]),
    ...OTHERS,
  ];
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger asChild>
        <button
          type="button"
          aria-label="Keys of the keyboard"
          title="Keys of the keyboard ( ? )"
          className="figures grid size-8 place-items-center rounded-md text-soft hover:text-ink"
        >
          ?
        </button>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-[#101412]/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[14vh] left-1/2 z-30 w-[440px] -translate-x-1/2 rounded-md border border-line bg-paper p-6"
        >
          <Dialog.Title className="mb-3 text-[20px] leading-7">Keys of the keyboard</Dialog.Title>
          <dl className="grid grid-cols-[90px_1fr] gap-y-1.5">
            {rows.map(([keys, what]) => (
              <div key={keys} className="contents">
                <dt>
                  <kbd className="figures rounded border border-line bg-raised px-1.5 text-[13px]">{keys}</kbd>
                </dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
