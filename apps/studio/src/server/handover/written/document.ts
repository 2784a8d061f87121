import { textsOf } from '@yucca/kit/texts';
import { asHtml } from '../escape';
import type { TakenAway } from '../targets/target';
import { linkFrom, logoOf } from './facts';

/** An HTML document: its title from the page, what more is in its head, and its body. */
export const documentFile = ({ page, language }: TakenAway, head: string, body: string): string =>
  `<!doctype html>
<html lang="${asHtml(language)}">
  <head>
    <meta charset="utf-8" />
    <meta name="viewport" content="width=device-width, initial-scale=1" />
    <title>${asHtml(page.title)}</title>
    <meta name="description" content="${asHtml(textsOf(page.locale, page.texts).say('searchIn', { title: page.title }))}" />
    ${head}
  </head>
  <body>
    ${body}
  </body>
</html>
`;

/** The header of a page: its name in an element, what stands beside it, its links. */
export function headerOf({ page, server }: TakenAway, name = 'h1', beside = '', logoFrom = server): string {
  const { title, header } = page;
  const logo = logoOf(page, logoFrom);
  const image = logo === null ? '' : `<img src="${asHtml(logo.src)}" alt="${asHtml(logo.alt)}" height="36" />`;
  const links = (header?.links ?? []).map(
    ({ label, href }) => `        <a href="${asHtml(linkFrom(server, href))}">${asHtml(label)}</a>\n`,
  );
  const nav = links.length === 0 ? '' : `<nav aria-label="Links">\n${links.join('')}      </nav>`;
  return `<header>
      <${name}>${image}${header?.logoAlone && logo ? '' : asHtml(header?.name ?? title)}</${name.split(' ')[0]}>
      ${beside}
      ${nav}
    </header>`;
}
