'use client';

import type { Collection, Key } from '@yucca/contract';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { api } from '@/ui/api';
import { Button } from '@/ui/button';
import { ConfirmByName } from '@/ui/confirm-by-name';
import { CopyButton } from '@/ui/copy-button';
import { count, moment } from '@/ui/format';
import { KeysHead } from './keys-head';
import { NewKeyForm } from './new-key-form';

/** Who may do what: all keys with their limits, and the making of new ones. */
export function KeysScreen({ keys, collections }: { keys: Key[]; collections: Collection[] }) {
  const router = useRouter();
  const [made, setMade] = useState<{ key: Key; secret: string } | null>(null);
  return (
    <>
      <section className="min-w-0 flex-1 overflow-y-auto">
        <KeysHead current="Keys">
          Pages and scripts send a key with every request. Yucca cannot show its secret again, so a lost one is made
          anew.
        </KeysHead>
        {made && <Secret made={made} collections={collections} onClose={() => setMade(null)} />}
        <table className="w-full border-t border-line text-[13px]">
          <thead className="bg-sunk text-left">
            <tr>
              {['Label', 'Rights', 'Limits', 'Made', 'Last used'].map((name, i) => (
                <th key={name} scope="col" className={i === 0 ? 'py-2 pl-6 font-medium' : 'px-3 py-2 font-medium'}>
                  {name}
                </th>
              ))}
              <td />
            </tr>
          </thead>
          <tbody>
            {keys.map((key) => (
              <KeyRow key={key.id} entry={key} fresh={made?.key.id === key.id} />
            ))}
          </tbody>
        </table>
        <Tokens />
      </section>
      <aside aria-label="New key" className="w-[360px] shrink-0 overflow-y-auto border-l border-line bg-raised p-4">
        <NewKeyForm
          collections={collections}
          onMade={(next) => {
            setMade(next);
            router.refresh();
          }}
        />
      </aside>
    </>
  );
}

/** What holds a key back, in words. */
function limitsOf({ collections, origins, perMinute, filter }: Key): string[] {
  return [
    ...(collections ? [`in ${collections.join(', ')}`] : []),
    ...(filter ? [`where ${filter}`] : []),
    ...(origins ? [`from ${origins.join(', ')}`] : []),
    ...(perMinute ? [`${count(perMinute)} a minute`] : []),
  ];
}

function KeyRow({ entry, fresh }: { entry: Key; fresh: boolean }) {
  const router = useRouter();
  const [asking, setAsking] = useState(false);
  const [now] = useState(() => Date.now());
  const expired = entry.expiresAt !== null && Date.parse(entry.expiresAt) < now;
  return (
    <tr className={fresh ? 'border-b border-line bg-agave-tint align-top' : 'border-b border-line align-top'}>
      <th scope="row" className="py-2 pl-6 text-left font-medium">
        {entry.label}
        <span
          className="figures block text-xs font-normal text-soft"
          title="The id: what a scoped token names as its kid"
        >
          {entry.id}
        </span>
      </th>
      <td className="px-3 py-2">{entry.rights.join(', ')}</td>
      <td className="max-w-64 px-3 py-2">
        {entry.forPages && <span className="block text-soft">carried by the search pages</span>}
        {limitsOf(entry).map((limit) => (
          <span key={limit} className="block break-words">
            {limit}
          </span>
        ))}
        {entry.expiresAt !== null && (
          <span className={expired ? 'block text-madder' : 'block'}>
            {expired ? 'expired' : 'expires'} {moment(entry.expiresAt)}
          </span>
        )}
      </td>
      <td className="px-3 py-2 whitespace-nowrap text-soft">{moment(entry.createdAt)}</td>
      <td className="px-3 py-2 whitespace-nowrap text-soft">{entry.lastUsedAt ? moment(entry.lastUsedAt) : 'never'}</td>
      <td className="px-3 py-2 text-right">
        {!entry.forPages && (
          <button
            type="button"
            className="min-h-6 text-madder hover:underline"
            aria-label={`Delete the key ${entry.label}`}
            onClick={() => setAsking(true)}
          >
            Delete
          </button>
        )}
        {asking && (
          <ConfirmByName
            name={entry.label}
            title={`Delete the key “${entry.label}”?`}
            verb="Delete key"
            onConfirm={async () => {
              await api(`/keys/${entry.id}`, { method: 'DELETE' });
              router.refresh();
            }}
            onClose={() => setAsking(false)}
          >
            Whatever uses it is refused from that moment on. A deleted key cannot be brought back.
          </ConfirmByName>
        )}
      </td>
    </tr>
  );
}

function Secret({
  made: { key, secret },
  collections,
  onClose,
}: {
  made: { key: Key; secret: string };
  collections: Collection[];
  onClose: () => void;
}) {
  const name = key.collections?.[0] ?? collections[0]?.name ?? 'plants';
  const example = `curl -H 'Authorization: Bearer ${secret}' '${window.location.origin}/api/v1/collections/${name}/search?q=agave'`;
  return (
    <div role="status" className="mx-6 mb-4 rounded-md border border-agave bg-agave-tint p-4">
      <p className="mb-2 font-medium">The secret of “{key.label}”. It is shown this once: copy it now.</p>
      <code className="figures mb-3 block rounded-md bg-raised px-3 py-2 text-[13px] break-all">{secret}</code>
      <div className="flex gap-2">
        <CopyButton text={secret} label="Copy secret" />
        {key.rights.some((right) => right !== 'write') && <CopyButton text={example} label="Copy as a curl command" />}
        <Button onClick={onClose}>I have it</Button>
      </div>
    </div>
  );
}

/** How to narrow a key further, for one visitor or one tenant, without asking Yucca. */
function Tokens() {
  return (
    <details className="px-6 py-4">
      <summary className="font-medium">Scoped tokens: a key narrowed for one visitor</summary>
      <p className="mt-2 mb-2 max-w-2xl text-soft">
        Your own server can sign a JSON Web Token (HS256) with a key’s secret and hand it to a page instead of the key.
        It may do what the key may do and its claims allow, whichever is less: <code className="figures">rights</code>,{' '}
        <code className="figures">collections</code>, <code className="figures">filter</code>,{' '}
        <code className="figures">origins</code>, <code className="figures">perMinute</code>,{' '}
        <code className="figures">exp</code>. Its header names the key: <code className="figures">kid</code>.
      </p>
      <pre className="figures max-w-2xl overflow-x-auto rounded-md bg-sunk p-3 text-[13px]" tabIndex={0}>
        {`import jwt from 'jsonwebtoken';

const token = jwt.sign(
  { rights: ['search'], filter: "member_id = '4711'" },
  process.env.YUCCA_KEY,
  { algorithm: 'HS256', keyid: 'the id of the key', expiresIn: '1h' },
);`}
      </pre>
    </details>
  );
}
