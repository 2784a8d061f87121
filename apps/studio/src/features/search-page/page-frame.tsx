import type { ReactNode } from 'react';
import { ThemeSwitch } from '@/features/frame/theme-switch';

/** What stands around every hosted page: its name above, the way back to its beginning. */
export function PageFrame({ title, at, children }: { title: string; at: string; children: ReactNode }) {
  return (
    <div className="hosted-page mx-auto max-w-[1180px] px-4 pb-16 sm:px-6">
      <header className="flex items-center justify-between py-4">
        <p className="font-head text-[20px] leading-7 font-semibold">
          <a href={at}>{title}</a>
        </p>
        <ThemeSwitch />
      </header>
      <main>{children}</main>
    </div>
  );
}
