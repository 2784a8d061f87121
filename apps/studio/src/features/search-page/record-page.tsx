import type { InterfacePage, RecordJson, SearchResult } from '@yucca/contract';
import { readableName } from '@yucca/contract';
import { cardFormatOf, shownHit } from '@yucca/kit';
import { textsOf } from '@yucca/kit/texts';

/** Texts longer than this are paragraphs of their own, not lines of a table. */
const LONG = 160;

type Fact = [label: string, value: string];

interface Told {
  facts: Fact[];
  /** Long texts under their headings. */
  sections: Fact[];
}

/** What a record says, as a visitor can read it: lists with commas, long texts apart, nested objects by their parts. */
function tell(value: unknown, path: string, told: Told): void {
  if (value === null || value === undefined || value === '') return;
  if (Array.isArray(value)) {
    const plain = value.every((one) => typeof one !== 'object');
    if (plain && value.length > 0) told.facts.push([readableName(path), value.join(', ')]);
    if (!plain) value.forEach((one) => tell(one, path, told));
  } else if (typeof value === 'object') {
    const { heading, title, text } = value as RecordJson;
    const name = heading ?? title;
    if (typeof name === 'string' && typeof text === 'string') told.sections.push([name, text]);
    else for (const [part, inner] of Object.entries(value)) tell(inner, path === '' ? part : `${path}.${part}`, told);
  } else if (typeof value === 'boolean') told.facts.push([readableName(path), value ? 'yes' : 'no']);
  else (String(value).length > LONG ? told.sections : told.facts).push([readableName(path), String(value)]);
}

/** One record of a hosted page, in full. */
export function RecordPage({ page, result }: { page: InterfacePage; result: SearchResult }) {
  const hit = shownHit(result, page.card);
  const { label, figure } = textsOf(page.locale, page.texts);
  const onCard = new Set(Object.values(page.card).filter((field) => field !== null));
  const left = Object.fromEntries(
    Object.entries(result.record).filter(([name]) => !onCard.has(name) && name !== page.geo),
  );
  const told: Told = { facts: [], sections: [] };
  tell(left, '', told);
  const { text } = page.card;
  return (
    <article className="mt-4 grid gap-8 md:grid-cols-[minmax(0,1fr)_minmax(0,2fr)]">
      {hit.picture && (
        // eslint-disable-next-line @next/next/no-img-element -- pictures come from the records, of any host and size
        <img
          srcSet={hit.smaller}
          sizes="(min-width: 768px) 400px, 100vw"
          src={hit.picture}
          alt=""
          width={400}
          height={300}
          fetchPriority="high"
          className="aspect-[4/3] w-full rounded-md border border-line object-cover"
        />
      )}
      <div className={hit.picture ? '' : 'md:col-span-2'}>
        <h1 className="text-[28px] leading-9">{hit.title.text}</h1>
        {hit.detail && <p className="text-soft">{hit.detail.text}</p>}
        {hit.number && (
          <p className="mt-3">
            {label(hit.number.label)}{' '}
            <span className="figures text-[20px]">{figure(hit.number.value, cardFormatOf(page))}</span>
          </p>
        )}
        {text !== null && typeof result.record[text] === 'string' && (
          <p className="mt-4 max-w-[68ch] whitespace-pre-line">{result.record[text]}</p>
        )}
        {told.sections.map(([heading, body], i) => (
          <section key={i} className="mt-5 max-w-[68ch]">
            <h2 className="text-[15px]">{label(heading)}</h2>
            <p className="whitespace-pre-line">{body}</p>
          </section>
        ))}
        <dl className="mt-6 grid max-w-[68ch] grid-cols-[max-content_minmax(0,1fr)] gap-x-6 gap-y-1 border-t border-line pt-4 text-[13px]">
          {told.facts.map(([name, value], i) => (
            <div key={i} className="contents">
              <dt className="text-soft">{label(name)}</dt>
              <dd className="min-w-0 break-words">{value}</dd>
            </div>
          ))}
        </dl>
      </div>
    </article>
  );
}
