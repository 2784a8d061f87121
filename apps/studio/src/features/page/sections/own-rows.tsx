'use client';

import type { ListRow } from '@yucca/contract';
import { addressSource } from '@yucca/kit';
import { useState } from 'react';
import { RemoveButton } from '@/ui/controls';
import { mayLead, MoveButtons, moved } from '../setting';
import { LineWhenDone } from './plain-inputs';

const MOST = 50;
/** Rows of one’s own: a text that is searched for, or that leads somewhere. */
export function OwnRows({ rows, onRows }: { rows: readonly ListRow[]; onRows: (rows: ListRow[]) => void }) {
  const [problem, setProblem] = useState<string | null>(null);
  return (
    <div className="grid gap-1">
      {rows.map((row, i) => (
        <div key={i} className="flex items-center gap-1">
          <span className="min-w-0 flex-1 truncate" title={row.href}>
            {row.text} {row.href && <span className="figures text-xs text-soft">{row.href}</span>}
          </span>
          <MoveButtons
            what={row.text}
            at={i}
            count={rows.length}
            onMove={(from, to) => onRows(moved(rows, from, to))}
          />
          <RemoveButton what={row.text} onRemove={() => onRows(rows.toSpliced(i, 1))} />
        </div>
      ))}
      {rows.length < MOST && (
        <form
          className="grid grid-cols-[1fr_1fr_auto] gap-1"
          onSubmit={(event) => {
            event.preventDefault();
            const data = new FormData(event.currentTarget);
            const [text, href] = [String(data.get('text')).trim(), String(data.get('href')).trim()];
            if (href !== '' && !mayLead(href))
              return setProblem('An address begins with https://, or with one slash for a path of this server.');
            setProblem(null);
            if (text === '') return;
            onRows([...rows, { text, ...(href !== '' && { href }) }]);
            event.currentTarget.reset();
          }}
        >
          <input
            name="text"
            maxLength={200}
            className="field py-0.5 text-[13px]"
            placeholder="Text"
            aria-label="Text of a row"
          />
          <input
            name="href"
            maxLength={2048}
            className="field py-0.5 text-[13px]"
            placeholder="address, or none"
            aria-label="Address of a row"
          />
          <button type="submit" className="link px-1 text-[13px]">
            Add row
          </button>
        </form>
      )}
      {problem && (
        <p role="alert" className="text-xs text-madder">
          {problem}
        </p>
      )}
    </div>
  );
}

/** An address that answers rows, and what it answers now. */
export function OwnAddress({ address, onAddress }: { address: string; onAddress: (address: string) => void }) {
  const [told, setTold] = useState<string | null>(null);
  const tryIt = async (): Promise<void> => {
    setTold('Asking …');
    try {
      const source = addressSource({ label: '', size: 20, address }, 'trial');
      const [section] = await source.load('a', new AbortController().signal);
      setTold(
        section && section.offers.length > 0
          ? `It answers rows: ${section.offers
              .map(({ text }) => text)
              .slice(0, 3)
              .join(', ')} …`
          : 'It answers no rows. A JSON list of {"text": …} is what is read; href, detail and picture may stand beside it.',
      );
    } catch (error) {
      setTold(
        `It could not be asked from a browser: ${(error as Error).message}. Does it answer with Access-Control-Allow-Origin?`,
      );
    }
  };
  return (
    <div className="grid gap-1">
      <LineWhenDone
        label="Address that is asked"
        value={address}
        placeholder="https://shop.example/offers?q={q}"
        most={2048}
        onText={(text) => text !== '' && onAddress(text)}
      />
      <p className="text-xs text-soft">
        {'{q}'} is what was typed. The visitor’s browser asks it, without cookies.{' '}
        <button type="button" className="link" onClick={() => void tryIt()}>
          Try it with “a”
        </button>
      </p>
      {told && (
        <p role="status" className="text-xs">
          {told}
        </p>
      )}
    </div>
  );
}
