import type { FeedWithSecret } from '@yucca/contract';
import { useState, type FormEvent } from 'react';
import { api } from '@/ui/api';
import { Button } from '@/ui/button';

/** Connects a source that sends its changes itself. */
export function NewFeed({ collection, onMade }: { collection: string; onMade: (made: FeedWithSecret) => void }) {
  const [name, setName] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    const json = { name: name.trim() || 'Shop', collection, source: { kind: 'webhook' } };
    api<FeedWithSecret>('/feeds', { method: 'POST', json }).then(onMade, (error: Error) => setProblem(error.message));
  };
  return (
    <form onSubmit={submit} className="grid max-w-[60ch] content-start gap-4 p-6">
      <h2 className="text-[17px]">Connect a source</h2>
      <p className="text-soft">
        Your shop, CMS or database sends each change as a signed event (a webhook with CloudEvents). It can be searched
        a moment later. Repeats count once, and the newest wins whatever the order.
      </p>
      <label>
        What is it called?
        <input
          className="field mt-1"
          maxLength={100}
          placeholder="Shop"
          value={name}
          autoFocus
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      {problem && (
        <p role="alert" className="text-madder">
          {problem}
        </p>
      )}
      <div>
        <Button kind="primary" type="submit">
          Connect
        </Button>
      </div>
    </form>
  );
}
