import type { Metadata } from 'next';
import { Frame } from '@/features/frame/frame';
import { KeysScreen } from '@/features/keys/keys-screen';
import { studioRuntime } from '@/http/studio-gate';

export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'Keys' };

export default async function KeysPage() {
  const { collections, keys } = await studioRuntime('/keys');
  const all = collections.list();
  return (
    <Frame collections={all} stage="keys">
      <KeysScreen keys={keys.list()} collections={all} />
    </Frame>
  );
}
