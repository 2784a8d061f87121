import type { InterfacePage } from '@yucca/contract';

/** What is around a page: the window, the header, and what the theme says. The kit's sheet has the usual values. */
export function frameStyles({ theme = {} }: Pick<InterfacePage, 'theme'>): string {
  const own = Object.entries(theme).map(([name, value]) => `  ${name}: ${value};\n`);
  return `:root {
  color-scheme: var(--yucca-scheme, light dark);
${own.join('')}}
body {
  margin: 0 auto;
  max-width: 1180px;
  padding: 0 16px 64px;
  background: var(--yucca-paper, light-dark(#fbf8f1, #151a17));
  color: var(--yucca-ink, light-dark(#1f2a24, #ece7da));
  font: 14px/20px var(--yucca-font, system-ui, sans-serif);
}
html {
  background: var(--yucca-paper, light-dark(#fbf8f1, #151a17));
}
header {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 24px;
  padding: 16px 0;
}
header a {
  color: inherit;
}
h1 {
  margin: 0;
  font: 600 20px/28px var(--yucca-font-head, var(--yucca-font, system-ui, sans-serif));
}
`;
}

/** The style sheets of a project: the kit's, the theme's, the page's own. */
export function projectStyles(page: InterfacePage): Record<'theme.css' | 'own.css', string> | { 'theme.css': string } {
  const columns = page.layout === 'cards' ? `[data-yucca] {\n  --columns: ${page.columns ?? 3};\n}\n` : '';
  const theme = `/* Colours, type and corners of the page; every value that is missing here is the kit's. */\n${frameStyles(page)}${columns}`;
  return { 'theme.css': theme, ...(page.css && { 'own.css': page.css }) };
}
