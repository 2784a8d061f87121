'use client';

import { useRouter } from 'next/navigation';

/** Goes to another collection, or to the overview of all. */
export function CollectionSwitch({
  names,
  current,
}: {
  names: { name: string; title: string }[];
  current: string | null;
}) {
  const router = useRouter();
  if (names.length === 0) return null;
  return (
    <select
      aria-label="Collection"
      value={current ?? ''}
      onChange={(event) => router.push(event.target.value === '' ? '/' : `/c/${event.target.value}/records`)}
      className="min-h-8 rounded-md border border-line bg-paper px-2 font-medium hover:border-field-line"
    >
      <option value="">All collections</option>
      {names.map(({ name, title }) => (
        <option key={name} value={name}>
          {title}
        </option>
      ))}
    </select>
  );
}
