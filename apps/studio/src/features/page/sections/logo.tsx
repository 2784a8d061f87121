'use client';

import { LIMITS, type Header } from '@yucca/contract';
import { useRef, useState } from 'react';
import { api } from '@/ui/api';
import { Check } from '@/ui/controls';
import type { PageFacts } from '../facts';

/** The logo of a page: a file that is sent as it is chosen or dropped. */
export function LogoSetting({
  facts,
  header,
  onHeader,
}: {
  facts: PageFacts;
  header: Header;
  onHeader: (header: Header) => void;
}) {
  const input = useRef<HTMLInputElement>(null);
  const [status, setStatus] = useState<{ text: string; failed?: boolean } | null>(null);
  const { logo, logoAlone, ...rest } = header;
  const { slug } = facts.parts;
  const send = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    setStatus({ text: `Sending ${file.name} …` });
    try {
      const sent = await api<{ file: string }>(`/interfaces/${encodeURIComponent(slug)}/logo`, {
        method: 'POST',
        body: file,
      });
      onHeader({ ...rest, logo: sent.file, ...(logoAlone && { logoAlone }) });
      setStatus(null);
    } catch (error) {
      setStatus({ text: (error as Error).message, failed: true });
    }
  };
  return (
    <div
      data-for="header"
      className="grid gap-1 text-[13px]"
      onDragOver={(event) => event.dataTransfer.types.includes('Files') && event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        void send(event.dataTransfer.files[0]);
      }}
    >
      <div className="flex items-center gap-3">
        <span>Logo</span>
        <button type="button" className="link min-h-6" onClick={() => input.current?.click()}>
          {logo ? 'choose another' : 'choose a file'}
        </button>
        {logo && (
          // eslint-disable-next-line @next/next/no-img-element -- it is small already, and may be an SVG
          <img src={`/s/${slug}/logo/${logo}`} alt="The logo" className="h-6 max-w-[120px] object-contain" />
        )}
        {logo && (
          <button type="button" className="link min-h-6" onClick={() => onHeader(rest)}>
            Remove logo
          </button>
        )}
        <input
          ref={input}
          type="file"
          aria-label="Logo"
          accept="image/png,image/jpeg,image/svg+xml,.svg"
          hidden
          onChange={({ target }) => {
            void send(target.files?.[0]);
            target.value = '';
          }}
        />
      </div>
      {!logo && <p className="text-xs text-soft">PNG, JPEG or SVG, up to {LIMITS.logoBytes / 1000} kB.</p>}
      {logo && (
        <Check
          label="The logo holds the name"
          on={logoAlone === true}
          onValue={(on) => onHeader({ ...rest, logo, ...(on && { logoAlone: true }) })}
        />
      )}
      {status && (
        <p role="status" className={status.failed ? 'text-madder' : 'text-soft'}>
          {status.text}
        </p>
      )}
    </div>
  );
}
