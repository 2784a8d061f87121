import { Reply } from '@/http/reply';

const escape = (text: string): string => text.replace(/[&<>"']/g, (sign) => `&#${sign.charCodeAt(0)};`);

/** A page that needs nothing but itself: what went wrong, for somebody with a browser. */
export function plainPage(status: number, title: string, detail: string): Reply {
  const html = `<!doctype html>
<html lang="en">
<head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escape(title)}</title></head>
<body><main><h1>${escape(title)}</h1><p>${escape(detail)}</p><p><a href="/">Start again</a></p></main></body>
</html>
`;
  return new Reply(html, { status, headers: { 'Content-Type': 'text/html; charset=utf-8' } });
}
