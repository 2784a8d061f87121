import {
  clone,
  generate,
  parse,
  walk,
  type Atrule,
  type CssNode,
  type List,
  type ListItem,
  type Rule,
  type Selector,
} from 'css-tree';

/** Something in a style sheet that is not taken, and where. Lines and columns count from 1. */
export interface CssProblem {
  line: number;
  column: number;
  detail: string;
}

/** A style sheet of a page’s own, held to the page. */
export interface OwnCss {
  /** What may stand on the page; what has a problem is not in it. */
  css: string;
  problems: CssProblem[];
}

/**
 * Every rule hangs below the page. Named three times, so that it weighs more than the page’s own rules and a site’s
 * plain ones: a cascade layer would weigh less than either (CSS Cascading and Inheritance, level 5, section 6.4.2).
 */
const ROOT = '[data-yucca][data-yucca][data-yucca]';

const AT_RULES = new Set(['media', 'supports', 'container', 'keyframes', '-webkit-keyframes', 'font-face']);
const BELOW_ROOT = new Set(['media', 'supports', 'container']);
const REFUSED_PROPERTIES = new Set(['behavior', '-moz-binding']);
/** Where a text is an address. */
const TAKE_ADDRESSES = /^(?:image-set|-webkit-image-set|image|cross-fade|src|url)$/i;
/**
 * Paths of this server, and pictures that are in the text. Browsers drop tabs and line ends from an address and take a
 * backslash for a slash (WHATWG URL), so a path has none of them.
 */
const MAY_LEAD = /^(?:\/(?![/\\])[^\\\0-\x20]*$|data:image\/(?:png|jpeg|gif|webp|avif|svg\+xml)[;,])/i;

/** Reads a style sheet of a page’s own. */
export function readOwnCss(source: string): OwnCss {
  const problems: CssProblem[] = [];
  const say = (node: CssNode, detail: string): void => {
    const { line = 1, column = 1 } = node.loc?.start ?? {};
    problems.push({ line, column, detail });
  };
  const sheet = parse(source, {
    positions: true,
    parseCustomProperty: true,
    onParseError: ({ line, column, message }: SyntaxError & { line: number; column: number }) =>
      problems.push({ line, column, detail: `cannot be read: ${message}` }),
  });
  refuse(sheet, say);
  hangBelowRoot(sheet);
  const css = generate(sheet).replaceAll('</', '<\\/');
  return { css, problems: problems.sort((a, b) => a.line - b.line || a.column - b.column) };
}

/** Takes out what would leave the page, and says so. */
function refuse(sheet: CssNode, say: (node: CssNode, detail: string) => void): void {
  walk(sheet, {
    enter(node: CssNode, item: ListItem<CssNode>, list: List<CssNode> | null) {
      const detail = reasonAgainst(node);
      if (detail === null) return;
      say(node, detail);
      if (list) list.remove(item);
      return walk.skip;
    },
  });
}

/** Why something is not taken; null when it is. */
function reasonAgainst(node: CssNode): string | null {
  if (node.type === 'Atrule') {
    if (!AT_RULES.has(node.name.toLowerCase()))
      return `@${node.name} is not taken: a page has one style sheet, of @media, @supports, @container, @keyframes and @font-face`;
    const away = node.prelude === null ? null : leadsAway(node.prelude);
    return away === null ? null : awaySentence(away);
  }
  if (node.type === 'Declaration') return reasonAgainstDeclaration(node.property.toLowerCase(), node.value);
  // What the parser could not read is no rule and no declaration; it was told already.
  if (node.type === 'Rule' && node.prelude.type === 'Raw') return 'its selector cannot be read';
  if (node.type === 'Raw') return 'cannot be read';
  return null;
}

function reasonAgainstDeclaration(property: string, value: CssNode): string | null {
  if (REFUSED_PROPERTIES.has(property)) return `“${property}” is not taken`;
  const text = generate(value);
  if (property === 'position' && /\b(?:fixed|sticky)\b/i.test(text))
    return 'a fixed or sticky part would stand outside of the page';
  if (value.type === 'Raw') return /[\\(]/.test(text) ? 'its value cannot be read' : null;
  const away = leadsAway(value);
  return away === null ? null : awaySentence(away);
}

const awaySentence = (address: string): string =>
  `“${address}” leads elsewhere: only paths of this server and data:image are taken`;

/** An address in a value, or in what an at-rule says, that is not taken; null when there is none. */
function leadsAway(value: CssNode): string | null {
  let away: string | null = null;
  walk(value, function visit(node) {
    if (node.type === 'Url' && !MAY_LEAD.test(node.value)) away ??= node.value;
    // A text that is unpacked only later, such as a fallback of var(), is looked at as it stands.
    if (node.type === 'Raw' && /(?:url|src|image)[^(]*\(/i.test(node.value)) away ??= node.value;
    const inside = this.function?.name;
    if (node.type === 'String' && inside && TAKE_ADDRESSES.test(inside) && !MAY_LEAD.test(node.value))
      away ??= node.value;
  });
  return away;
}

/** Has every selector begin at the page; `:scope` is the page itself. */
function hangBelowRoot(sheet: CssNode): void {
  walk(sheet, {
    visit: 'Rule',
    enter(rule: Rule) {
      const around = this.atrule as Atrule | null;
      const isPlain = around === null || BELOW_ROOT.has(around.name.toLowerCase());
      const isNested = this.rule !== null && this.rule !== rule;
      if (!isPlain || isNested || rule.prelude.type !== 'SelectorList') return;
      for (const selector of rule.prelude.children) if (selector.type === 'Selector') prefix(selector);
    },
  });
}

const rootSelector = parse(ROOT, { context: 'selector' }) as Selector;

function prefix(selector: Selector): void {
  const { first } = selector.children;
  const isRoot = first?.type === 'PseudoClassSelector' && first.name.toLowerCase() === 'scope';
  if (isRoot) selector.children.shift();
  else if (first?.type !== 'Combinator') selector.children.prependData({ type: 'Combinator', name: ' ' });
  for (const part of [...rootSelector.children].reverse()) selector.children.prependData(clone(part));
}
