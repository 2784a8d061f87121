import type { InterfacePage } from '@yucca/contract';
import type { CSSProperties, ReactNode } from 'react';
import { ThemeSwitch } from '@/features/frame/theme-switch';

/** What stands around every hosted page: its name above, the way back to its beginning, links of its own. */
export function PageFrame({
  page: { title, at, header, theme },
  children,
}: {
  page: Pick<InterfacePage, 'title' | 'at' | 'header' | 'theme'>;
  children: ReactNode;
}) {
  const links = header?.links ?? [];
  const hasOneScheme = theme?.['--yucca-scheme'] !== undefined;
  return (
    <div className="hosted-page" style={theme as CSSProperties}>
      <div className="mx-auto max-w-[1180px] px-4 pb-16 sm:px-6">
        <header className="flex flex-wrap items-center gap-x-6 gap-y-1 py-4">
          <p className="font-(family-name:--hosted-head) text-[20px] leading-7 font-semibold">
            <a href={at}>{header?.name ?? title}</a>
          </p>
          {links.length > 0 && (
            <nav aria-label="Links" className="flex flex-wrap gap-x-4">
              {links.map(({ label, href }) => (
                <a key={`${label} ${href}`} href={href} className="flex min-h-8 items-center text-soft hover:text-ink">
                  {label}
                </a>
              ))}
            </nav>
          )}
          <span className="ml-auto">{!hasOneScheme && <ThemeSwitch />}</span>
        </header>
        <main>{children}</main>
      </div>
    </div>
  );
}
