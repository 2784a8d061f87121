import { asHtml, asMarkdown } from '../escape';
import { documentFile, headerOf } from '../written/document';
import { elementPolicy } from '../written/policy';
import { whereKeyWorks } from '../written/project';
import { frameStyles } from '../written/styles';
import type { TakenAway, Target } from './target';

/** The search field alone, for the header of a site that shows results on a page of its own. */
export const header: Target = (what) => {
  const styles = `\n${frameStyles(what.page)}yucca-search-field {\n  flex: 1 1 320px;\n}\n`;
  return { 'index.html': documentOf(what, styles), 'README.md': readmeOf(what, styles) };
};

const elementOf = ({ page, server, key }: TakenAway): string =>
  `<yucca-search-field server="${asHtml(server)}" interface="${asHtml(page.slug)}" key="${asHtml(key)}" results="/search?q={q}"></yucca-search-field>`;

const documentOf = (what: TakenAway, styles: string): string =>
  documentFile(
    what,
    `<style>${styles}</style>
    <script src="${asHtml(what.server)}/yucca-search-field.js" defer></script>`,
    `${headerOf(what, 'h1', elementOf(what))}
    <main>
      <p>Your site.</p>
    </main>`,
  );

function readmeOf(what: TakenAway, styles: string): string {
  const { page, server, origins } = what;
  return `# ${asMarkdown(page.title)}

The search field for the header of your site. \`index.html\` shows it in a header; look at it here:

\`\`\`sh
python3 -m http.server 8080
\`\`\`

Put these two into your own pages, the script once and the element where the field belongs:

\`\`\`html
<script src="${server}/yucca-search-field.js" defer></script>
${elementOf(what)}
\`\`\`

- \`results\`: the address of your page with results, with \`{q}\` for what was typed. Without it: the page that Yucca
  hosts, which knows facets too.
- \`records\`: the address of a record’s page on your site, with \`{id}\` in it. Without it: the page that Yucca hosts.

It asks \`${server}\`. ${whereKeyWorks(origins)} It can do nothing but search, and can be taken back in Yucca under Keys.

## Content-Security-Policy

The strictest header \`index.html\` works under:

\`\`\`
Content-Security-Policy: ${elementPolicy(server, styles)}
\`\`\`
`;
}
