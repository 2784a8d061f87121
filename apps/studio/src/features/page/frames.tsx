'use client';

import type { InterfacePage } from '@yucca/contract';
import clsx from 'clsx';
import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import { hearFrom, type FromPage, type ToPage } from '@/features/search-page/preview/messages';

export const WIDTHS = { desktop: 1280, tablet: 768, phone: 390 } as const;
export type Width = keyof typeof WIDTHS;

export interface PageInFrameProps {
  /** What it is: told to whoever cannot see it. */
  title: string;
  address: string;
  width: Width;
  /** The page as it is now; null = as it was loaded. */
  page: InterfacePage | null;
  q: string;
  pointing: boolean;
  outline: string | null;
  scheme: 'light' | 'dark' | null;
  onChosen: (part: string) => void;
  onAsked: (q: string) => void;
}

/** The real page at a true width in CSS pixels, scaled to fit; it is told of every change and never loaded anew. */
export function PageInFrame(props: PageInFrameProps) {
  const { title, address, width, page, q, pointing, outline, scheme, onChosen, onAsked } = props;
  const frame = useRef<HTMLIFrameElement>(null);
  const place = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState<{ width: number; height: number } | null>(null);
  const [ready, setReady] = useState(0);
  useLayoutEffect(() => {
    const element = place.current!;
    const watch = new ResizeObserver(([entry]) => {
      const { width: across, height } = entry!.contentRect;
      setRoom({ width: across, height });
    });
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  // What this frame has said itself is not told to it again: more may have been typed in it meanwhile.
  const heard = useRef<string[]>([]);
  const handlers = useRef({ onChosen, onAsked });
  useEffect(() => {
    handlers.current = { onChosen, onAsked };
  });
  const tell = (message: ToPage): void => frame.current?.contentWindow?.postMessage(message, window.location.origin);
  useEffect(() => {
    const stop = hearFrom<FromPage>(
      () => frame.current?.contentWindow ?? null,
      (message) => {
        if (message.yucca === 'ready') setReady((times) => times + 1);
        else if (message.yucca === 'chosen') handlers.current.onChosen(message.part);
        else {
          heard.current.push(message.q);
          handlers.current.onAsked(message.q);
        }
      },
    );
    // The frame stands in the HTML: it can be ready before this screen has run its first line.
    tell({ yucca: 'hello' });
    return stop;
  }, []);
  // A frame that was loaded again hears all of it once more.
  useEffect(() => {
    if (ready > 0 && page !== null) tell({ yucca: 'page', page });
  }, [ready, page]);
  useEffect(() => {
    const at = heard.current.indexOf(q);
    heard.current = at < 0 ? [] : heard.current.slice(at + 1);
    if (ready > 0 && at < 0) tell({ yucca: 'query', q });
  }, [ready, q]);
  useEffect(() => {
    if (ready > 0) tell({ yucca: 'pointing', on: pointing });
  }, [ready, pointing]);
  useEffect(() => {
    if (ready > 0) tell({ yucca: 'outline', part: outline });
  }, [ready, outline]);
  useEffect(() => {
    if (ready > 0 && scheme !== null) tell({ yucca: 'scheme', scheme });
  }, [ready, scheme]);
  const across = WIDTHS[width];
  const scale = room === null ? 1 : Math.min(1, room.width / across);
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col" style={{ flexGrow: width === 'desktop' ? 2 : 1 }}>
      <p className="flex items-baseline gap-2 pb-1 text-xs text-soft">
        <span className="font-medium">{title}</span>
        <span className="figures">
          {across} px{scale < 1 && `, ${Math.round(scale * 100)}%`}
        </span>
      </p>
      <div ref={place} className="min-h-0 flex-1 overflow-hidden">
        <iframe
          ref={frame}
          title={title}
          src={address}
          className={clsx('rounded-md border border-line bg-paper', room === null && 'invisible')}
          style={{
            width: across,
            height: (room?.height ?? 0) / scale,
            transform: `scale(${scale})`,
            transformOrigin: '0 0',
          }}
        />
      </div>
    </div>
  );
}
