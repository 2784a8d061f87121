import clsx from 'clsx';
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
      <div className="flex items-baseline gap-6">
        <h1 className="text-[20px] leading-7">{current}</h1>
        <nav aria-label="Under Keys" className="flex gap-4">
          {VIEWS.map(({ name, href }) => (
            <Link
              key={name}
              href={href}
              aria-current={name === current ? 'page' : undefined}
              className={clsx(
                'min-h-6',
                name === current ? 'font-semibold' : 'text-soft hover:text-ink hover:underline',
              )}
            >
              {name}
            </Link>
          ))}
        </nav>
      </div>
      <p className="text-soft">{children}</p>
    </div>
  );
}
