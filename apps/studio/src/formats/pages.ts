import type { RecordJson } from '@yucca/contract';
import { unpacked } from './archive';
import { FormatError } from './format-error';

/** Names of pages. */
export const PAGE = /\.(md|markdown|mdx|html?|xhtml)$/i;
/** Of a front matter, between lines of hyphens at the top of a page. */
const FRONT = /^---\r?\n([\s\S]*?)\r?\n---\r?\n?/;
/** Elements whose text nobody reads on the page. */
const UNREAD = new Set(['script', 'style', 'template', 'noscript', 'nav', 'svg']);
/** Elements that part words where no space stands. */
const BLOCK =
  /^(p|div|section|article|header|footer|main|aside|ul|ol|li|table|tr|td|th|h[1-6]|br|hr|pre|blockquote|figure|figcaption|dl|dt|dd)$/;

/** One page in Markdown as a list of one record. */
export const readMarkdown = (bytes: Uint8Array): Promise<unknown> => onePage(bytes, false);

/** One page in HTML as a list of one record. */
export const readHtmlPage = (bytes: Uint8Array): Promise<unknown> => onePage(bytes, true);

const onePage = async (bytes: Uint8Array, isHtml: boolean): Promise<unknown> => [
  await pageOf(new TextDecoder().decode(bytes), '', isHtml),
];

/** Every page of an archive (ZIP), by its path. Throws a FormatError when there is none. */
export async function readPages(bytes: Uint8Array): Promise<unknown> {
  const files = await unpacked(bytes, (name) => PAGE.test(name) && !/(^|\/)(\.|__MACOSX|node_modules\/)/.test(name));
  if (files.length === 0)
    throw new FormatError(
      'The archive holds no page in Markdown or HTML. Unpack it and drop what is inside: tables, JSON, Excel files.',
    );
  files.sort((a, b) => (a.name < b.name ? -1 : 1));
  const pages: RecordJson[] = [];
  for (const file of files)
    pages.push(await pageOf(new TextDecoder().decode(file.bytes), file.name, /\.x?html?$/i.test(file.name)));
  return pages;
}

/** A page as a record: its path in the archive, title, headings and text, and what its front matter says. */
async function pageOf(source: string, path: string, isHtml: boolean): Promise<RecordJson> {
  const plain = source.replace(/^\ufeff/, '');
  const front = FRONT.exec(plain);
  const facts = front === null ? {} : await frontMatter(front[1]!);
  const body = front === null ? plain : plain.slice(front[0].length);
  const html = isHtml ? body : await (await import('marked')).marked.parse(body, { async: true });
  const { title, headings, text, description } = await readHtml(html);
  const name = title || headings[0] || (path.split('/').at(-1) ?? '').replace(PAGE, '');
  return {
    ...(path === '' ? {} : { path }),
    ...(name === '' ? {} : { title: name }),
    ...(description === '' ? {} : { description }),
    ...(headings.length === 0 ? {} : { headings }),
    text,
    ...facts,
  };
}

async function frontMatter(text: string): Promise<RecordJson> {
  const { parse } = await import('yaml');
  try {
    const facts = parse(text) as unknown;
    return facts !== null && typeof facts === 'object' && !Array.isArray(facts) ? (facts as RecordJson) : {};
  } catch (error) {
    // A page whose front matter is broken still has its text.
    if ((error as Error).name === 'YAMLParseError') return {};
    throw error;
  }
}

interface Page {
  title: string;
  description: string;
  headings: string[];
  text: string;
}

async function readHtml(html: string): Promise<Page> {
  const { Parser } = await import('htmlparser2');
  const page: Page = { title: '', description: '', headings: [], text: '' };
  let [unread, heading, inTitle] = [0, '', false];
  let inHeading = false;
  const parser = new Parser({
    onopentag(name, attributes) {
      if (UNREAD.has(name)) unread++;
      if (name === 'title' && unread === 0 && page.title === '') inTitle = true;
      if (/^h[1-6]$/.test(name)) [inHeading, heading] = [true, ''];
      if (name === 'meta' && attributes.name === 'description') page.description = attributes.content ?? '';
      if (BLOCK.test(name)) page.text += ' ';
    },
    ontext(text) {
      if (unread > 0) return;
      if (inTitle) page.title += text;
      else page.text += text;
      if (inHeading) heading += text;
    },
    onclosetag(name) {
      if (UNREAD.has(name)) unread = Math.max(0, unread - 1);
      if (name === 'title') inTitle = false;
      if (/^h[1-6]$/.test(name) && inHeading) {
        if (squeezed(heading) !== '') page.headings.push(squeezed(heading));
        inHeading = false;
      }
      if (BLOCK.test(name)) page.text += ' ';
    },
  });
  parser.end(html);
  return { ...page, title: squeezed(page.title), description: squeezed(page.description), text: squeezed(page.text) };
}

const squeezed = (text: string): string => text.replace(/\s+/g, ' ').trim();
