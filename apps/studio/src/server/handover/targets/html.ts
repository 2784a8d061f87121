import { asHtml, asMarkdown } from '../escape';
import { documentFile, headerOf } from '../written/document';
import { elementPolicy } from '../written/policy';
import { whereKeyWorks } from '../written/project';
import { frameStyles } from '../written/styles';
import type { TakenAway, Target } from './target';

/** One HTML file: the page as an element, in its theme, under its header. */
export const html: Target = (what) => {
  const styles = `\n${frameStyles(what.page)}`;
  return { 'index.html': documentOf(what, styles), 'README.md': readmeOf(what, styles) };
};

function documentOf(what: TakenAway, styles: string): string {
  const { page, server, key } = what;
  const { slug, title } = page;
  return documentFile(
    what,
    `<style>${styles}</style>
    <script src="${asHtml(server)}/yucca-search.js" defer></script>`,
    `${headerOf(what)}
    <main>
      <yucca-search server="${asHtml(server)}" interface="${asHtml(slug)}" key="${asHtml(key)}"></yucca-search>
      <noscript>
        <p><a href="${asHtml(server)}/s/${asHtml(slug)}">Search ${asHtml(title)}</a></p>
      </noscript>
    </main>`,
  );
}

function readmeOf({ page, server, origins }: TakenAway, styles: string): string {
  return `# ${asMarkdown(page.title)}

\`index.html\` is the whole search page. Put it where your site is, or look at it here:

\`\`\`sh
python3 -m http.server 8080
\`\`\`

It asks \`${server}\` for what the page is made of and for results: what is published there is on this page with the
next visit. ${whereKeyWorks(origins)} It can do nothing but search; it is listed under Keys, and can be taken back there.

## Content-Security-Policy

The strictest header it works under:

\`\`\`
Content-Security-Policy: ${elementPolicy(server, styles)}
\`\`\`
`;
}
