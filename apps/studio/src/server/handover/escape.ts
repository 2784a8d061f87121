const ENTITIES: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&#39;',
};

/** A text as HTML says it, between tags and in quoted attributes. */
export const asHtml = (text: string): string => text.replace(/[&<>"']/g, (sign) => ENTITIES[sign]!);

/** A text as one line of Markdown: nothing in it is markup. */
export const asMarkdown = (text: string): string =>
  text.replace(/\s+/g, ' ').replace(/[\\`*_{}[\]<>()#+!|~-]/g, '\\$&');
