import type { Metadata } from 'next';
import { AuditScreen } from '@/features/keys/audit-screen';
import { Frame } from '@/features/frame/frame';
import { studioRuntime } from '@/http/studio-gate';

export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'Audit trail' };

const SIZE = 50;

interface Props {
  searchParams: Promise<{ collection?: string | string[]; page?: string | string[] }>;
}

export default async function AuditPage({ searchParams }: Props) {
  const { collections, audit } = await studioRuntime('/keys/audit');
  const asked = await searchParams;
  const all = collections.list();
  const collection = typeof asked.collection === 'string' && asked.collection !== '' ? asked.collection : null;
  const page = /^[1-9]\d{0,5}$/.test(String(asked.page)) ? Number(asked.page) : 1;
  return (
    <Frame collections={all} stage="keys">
      <AuditScreen
        entries={audit.list({ page, size: SIZE, collection })}
        collection={collection}
        names={all.map(({ name }) => name)}
      />
    </Frame>
  );
}
