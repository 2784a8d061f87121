import { sectionRuns, type InterfacePage, type PageSection } from '@yucca/contract';
import { cardFormatOf } from '@yucca/kit';
import { hasOwnSections } from './design';
import { importsOf } from './imports';
import { literal } from './literal';

type Records = PageSection & { collection: string };

/** The search field with what it offers. */
export function fieldFile(page: InterfacePage): string {
  const others = cardsOfOthers(page);
  const shown = page.typing?.preview === false ? [] : recordSections(page);
  const preview =
    shown.length === 0
      ? ''
      : `renderPreview={(offer) => <OfferPreview offer={offer} cardOf={cardOf} picturesFrom={SERVER} />}`;
  const hasVoice = page.typing?.voice === true;
  const body = `
interface FieldProps {
  text: string;
  total: number;
  /** Settles when the results of what was typed are there. */
  after: () => Promise<unknown>;
  onText: (text: string) => void;
  onAsk: (text: string) => void;
  onValue: (facet: string, value: string) => void;
  onRecord: (record: ViewedRecord) => void;
}

/** The search field with its completions. */
export function Field(props: FieldProps) {
  ${
    hasVoice
      ? `const ask = (text: string): void => {
    memory.addQuery(text);
    props.onAsk(text);
  };`
      : ''
  }
  return (
    ${hasVoice ? '<>' : ''}
    <QueryField
      {...props}
      label={TEXTS.search}
      memory={memory}
      sources={sources}
      facetLabel={(name) => FACETS.find((facet) => facet.name === name)?.label ?? name}
      ${preview}
      ${page.typing?.delayMs ? `waitMs={${page.typing.delayMs}}` : ''}
      ${page.typing?.enter ? `enter=${literal(page.typing.enter)}` : ''}
    />
    ${hasVoice ? '<VoiceButton onText={props.onText} onAsk={ask} />\n</>' : ''}
  );
}
${fieldSources(page)}
${
  shown.length === 0
    ? ''
    : `
/** How a record is shown beside the list. */
function cardOf(collection: string): PreviewCard {
  ${others.map(([collection, , name]) => `if (collection === ${literal(collection)}) return { card: ${name} };\n`).join('')}
  ${
    shown.some(({ collection }) => collection === page.collection) || others.length === 0
      ? `return { card: CARD${cardFormatOf(page) === null ? '' : `, currency: ${literal(cardFormatOf(page))}`} };`
      : 'return { card: CARD };'
  }
}
`
}`;
  const own = {
    './card': 'CARD',
    './design': 'PAGE',
    './facets': 'FACETS',
    './texts': 'TEXTS',
    './yucca': 'client memory SERVER',
  };
  // A parameter that nobody reads is none.
  const text = body.includes('if (collection') ? body : body.replace('cardOf(collection: string)', 'cardOf()');
  return importsOf(text, own) + text;
}

/** What the field offers, as a function of the program; before it the cards of other collections. */
export function fieldSources(page: InterfacePage): string {
  const cards = cardsOfOthers(page).map(([, card, name]) => `\nconst ${name}: Card = ${literal(card)};\n`);
  if (hasOwnSections(page))
    return `${cards.join('')}
/** What is offered, in order. */
function sources(): Source[] {
  return sourcesFor(PAGE.autocomplete, client, memory, SERVER, ${page.typing?.letters ?? 0});
}`;
  const rows = sectionRuns(page.autocomplete).map((run, i) => sourceOf(run, i, page));
  return `${cards.join('')}
/** What is offered, in order. */
function sources(): Source[] {
  return [${rows.join('')}];
}`;
}

const recordSections = ({ autocomplete }: InterfacePage): Records[] =>
  autocomplete.filter((section): section is Records => section.collection !== undefined && section.from !== 'values');

/** The cards of other collections, and what they are called in the program. */
function cardsOfOthers(page: InterfacePage): [collection: string, card: object, name: string][] {
  const found = new Map<string, object>();
  for (const { collection, card } of recordSections(page))
    if (collection !== page.collection && card) found.set(collection, card);
  return [...found].map(([collection, card], i) => [collection, card, nameFor(collection, i)]);
}

/** `growing-guides` is GROWING_GUIDES_CARD; what makes no name is counted. */
function nameFor(collection: string, i: number): string {
  const name = collection.toUpperCase().replace(/[^A-Z0-9]+/g, '_');
  return /^[A-Z][A-Z0-9_]*$/.test(name) ? `${name}_CARD` : `OTHER_CARD_${i + 1}`;
}

function sourceOf(run: PageSection[], i: number, page: InterfacePage): string {
  const [{ from, label, size, collection }] = run as [PageSection];
  const head = `label: ${literal(label)}, size: ${size}`;
  if (from === 'past') return `pastQueriesSource(memory, { ${head} }),\n`;
  if (from === 'viewed') return `viewedSource(memory, { ${head} }),\n`;
  if (from === 'values')
    return collection ? `completionsSource(client, { collection: ${literal(collection)}, ${head} }),\n` : '';
  const others = new Map(cardsOfOthers(page).map(([name, , card]) => [name, card]));
  const rows = run
    .filter((section): section is Records => section.collection !== undefined)
    .map((section) => {
      const card = others.get(section.collection) ?? 'CARD';
      return `{
        collection: ${literal(section.collection)},
        label: ${literal(section.label)},
        size: ${section.size},
        fields: fieldsOf(${card}),
        row: (result) => shownRow(result, ${card}, SERVER),
      },`;
    });
  const when = from === 'popular' ? ', from: 0, upTo: 0, totals: false' : '';
  return `recordsSource(client, [${rows.join('\n')}], { name: '${from}-${i}'${when} }),\n`;
}
