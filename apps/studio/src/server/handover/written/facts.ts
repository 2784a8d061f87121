import type { InterfacePage, Messages } from '@yucca/contract';
import { ENGLISH, textsOf } from '@yucca/kit/texts';
import { constant } from './literal';

/** A link of the page's header, as it is elsewhere. */
export const linkFrom = (server: string, href: string): string => (href.startsWith('/') ? server + href : href);

/** The logo of a page: where it is, and what it says to who does not see it; null without one. */
export function logoOf({ header, at, title }: InterfacePage, server: string): { src: string; alt: string } | null {
  if (header?.logo === undefined) return null;
  // A folder without a server has the file beside it.
  const src = server === '' ? `logo.${header.logo.split('.').at(-1)}` : `${server}${at}/logo/${header.logo}`;
  return { src, alt: header.logoAlone ? (header.name ?? title) : '' };
}

/** How wide the pictures of results are, as the attribute `sizes` says it. */
export const PICTURE_SIZES = '(min-width: 640px) 320px, 112px';

/** Whether a page says anything otherwise than in English as it comes along. */
export const hasOwnTexts = (page: InterfacePage): boolean =>
  (page.locale ?? 'en') !== 'en' || Object.keys(ownTexts(page)).length > 0;

/** The texts of a page that are not the English ones. */
function ownTexts({ texts = {} }: InterfacePage): Messages {
  const english = ENGLISH as Messages;
  return Object.fromEntries(
    Object.entries(texts).filter(([key, text]) => JSON.stringify(text) !== JSON.stringify(english[key])),
  );
}

/** The texts of the page that are its own; with `isAll` also a way to those that come along. */
export function textsFile(page: InterfacePage, isAll = false): string {
  const { title, header, locale, texts } = page;
  const { say } = textsOf(locale, texts);
  const own =
    isAll || hasOwnTexts(page)
      ? `
/** What the parts of the page say, by key: plurals by their categories, a name in braces for a value. */
export const PAGE_TEXTS = textsOf(${JSON.stringify(locale)}, ${JSON.stringify(ownTexts(page))});
`
      : '';
  return `${own === '' ? '' : `import { textsOf } from '@yucca/kit/texts';\n\n`}/** The page’s own texts. */
export const TEXTS = {
  name: ${JSON.stringify(header?.name ?? title)},
  search: ${JSON.stringify(say('searchIn', { title }))},
  submit: ${JSON.stringify(say('search'))},
  searching: ${JSON.stringify(say('searching'))},
};
${own}`;
}

/** What can be filtered and sorted by. */
export function facetsFile({ facets, sorts, geo, places }: InterfacePage): string {
  const parts = [
    constant('FACETS', facets, 'The filters, in their order, and how each is shown.', ": InterfacePage['facets']"),
    ...(sorts.length > 0 ? [constant('SORTS', sorts, 'Orders beside the usual one.')] : []),
    ...(geo !== null && places.length > 0 ? [constant('PLACES', places, 'Where distances can be measured from.')] : []),
  ];
  return `import type { InterfacePage } from '@yucca/kit';\n\n${parts.join('\n')}`;
}

/** What stands in the title of a written page, in JSX: its logo, its name. */
export function titleOf(page: InterfacePage, server: string): string {
  const logo = logoOf(page, server);
  if (logo === null) return '{TEXTS.name}';
  const image = `<img src=${JSON.stringify(logo.src)} alt=${JSON.stringify(logo.alt)} height={36} />`;
  return page.header?.logoAlone ? image : `${image} {TEXTS.name}`;
}
