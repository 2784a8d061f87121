import type { InterfacePage } from '@yucca/contract';
import type { CSSProperties, ReactNode } from 'react';
import { ThemeSwitch } from '@/features/frame/theme-switch';
import { inLanguage } from './in-language';

/** A language in its own words: "Deutsch". */
const ownName = (locale: string): string => new Intl.DisplayNames(locale, { type: 'language' }).of(locale) ?? locale;

/** What stands around every hosted page: its name, which leads back to its beginning, its links and its languages. */
export function PageFrame({
  page: { title, at, header, theme, locale, languages = [], dir },
  address,
  children,
}: {
  page: Pick<InterfacePage, 'title' | 'at' | 'header' | 'theme' | 'locale' | 'languages' | 'dir'>;
  /** Where the page is, in its first language. */
  address: string;
  children: ReactNode;
}) {
  const links = header?.links ?? [];
  const hasOneScheme = theme?.['--yucca-scheme'] !== undefined;
  return (
    <div className="hosted-page" style={theme as CSSProperties} lang={locale} dir={dir}>
      <div className="mx-auto max-w-[1180px] px-4 pb-16 sm:px-6">
        <header className="flex flex-wrap items-center gap-x-6 gap-y-1 py-4">
          <p className="font-(family-name:--hosted-head) text-[20px] leading-7 font-semibold">
            <a href={inLanguage(at, { locale, languages })} className="flex items-center gap-3">
              {header?.logo && (
                // eslint-disable-next-line @next/next/no-img-element -- it is small already, and may be an SVG
                <img
                  src={`${at}/logo/${header.logo}`}
                  alt={header.logoAlone ? (header.name ?? title) : ''}
                  className="h-9 w-auto max-w-[240px] object-contain"
                />
              )}
              {!header?.logoAlone && (header?.name ?? title)}
            </a>
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
          <span className="ms-auto flex items-center gap-4">
            {languages.length > 1 && (
              <nav aria-label="Languages" className="flex flex-wrap gap-x-3">
                {languages.map((tag) => (
                  <a
                    key={tag}
                    href={inLanguage(address, { locale: tag, languages })}
                    hrefLang={tag}
                    lang={tag}
                    aria-current={tag === locale ? 'true' : undefined}
                    className="flex min-h-8 items-center text-soft hover:text-ink aria-[current]:font-semibold aria-[current]:text-ink"
                  >
                    {ownName(tag)}
                  </a>
                ))}
              </nav>
            )}
            {!hasOneScheme && <ThemeSwitch />}
          </span>
        </header>
        <main>{children}</main>
      </div>
    </div>
  );
}
