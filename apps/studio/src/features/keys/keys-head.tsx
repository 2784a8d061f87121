import Link from 'next/link';
import type { ReactNode } from 'react';

const VIEWS = [
  { name: 'Keys', href: '/keys' },
  { name: 'Audit trail', href: '/keys/audit' },
] as const;

/** The head of what stands under Keys: who may do what, and who did. */
export function KeysHead({ current, children }: { current: (typeof VIEWS)[number]['name']; children: ReactNode }) {
  return (
    <div className="px-6 pt-4 pb-3">
      <nav aria-label="Under Keys" className="flex items-baseline gap-5">
        {VIEWS.map(({ name, href }) =>
          name === current ? (
            <h1 key={name} className="text-[20px] leading-7">
              {name}
            </h1>
          ) : (
            <Link key={name} href={href} className="min-h-6 text-soft hover:text-ink hover:underline">
              {name}
            </Link>
          ),
        )}
      </nav>
      <p className="text-soft">{children}</p>
    </div>
  );
}
