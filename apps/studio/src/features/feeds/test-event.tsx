import type { FeedTest, Page, RecordJson } from '@yucca/contract';
import { useState, type FormEvent } from 'react';
import { Button } from '@/ui/button';
import { useTold } from '@/ui/use-told';
import { DOES } from './feed-words';

/** Sends an event the way the source would: it changes the collection like any other. */
export function TestEvent({ collection, onSend }: { collection: string; onSend: (event: FeedTest) => void }) {
  const { value: first } = useTold<Page<RecordJson>>(`/collections/${collection}/records?size=1`);
  const { value: facts } = useTold<{ key: string }>(`/collections/${collection}`);
  const [typed, setTyped] = useState<string | null>(null);
  const [action, setAction] = useState<FeedTest['action']>('patch');
  const [text, setText] = useState('{}');
  const [problem, setProblem] = useState<string | null>(null);
  const record = first?.items[0];
  const key = typed ?? (record && facts ? String(record[facts.key] as string) : '');
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    setProblem(null);
    if (action === 'delete') return onSend({ key, action });
    try {
      onSend({ key, action, data: JSON.parse(text) as Record<string, unknown> });
    } catch (error) {
      setProblem(`This is not JSON: ${(error as Error).message}`);
    }
  };
  return (
    <form onSubmit={submit} className="flex flex-wrap items-end gap-3 border-b border-line bg-raised px-4 py-3">
      <label>
        Record
        <input
          className="field figures mt-1 w-40"
          required
          value={key}
          onChange={(event) => setTyped(event.target.value)}
        />
      </label>
      <label>
        What happens to it
        <select
          className="field mt-1 w-40"
          value={action}
          onChange={(event) => setAction(event.target.value as FeedTest['action'])}
        >
          {Object.entries(DOES).map(([one, words]) => (
            <option key={one} value={one}>
              {words}
            </option>
          ))}
        </select>
      </label>
      {action !== 'delete' && (
        <label className="min-w-60 flex-1">
          {action === 'patch' ? 'What changes, as JSON' : 'The record, as JSON'}
          <input className="field figures mt-1" value={text} onChange={(event) => setText(event.target.value)} />
        </label>
      )}
      <Button kind="primary" type="submit">
        Send
      </Button>
      {problem && (
        <p role="alert" className="w-full text-madder">
          {problem}
        </p>
      )}
    </form>
  );
}
