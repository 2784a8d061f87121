import type { InterfacePage } from '@yucca/contract';
import { cardFormatOf } from '@yucca/kit';
import { hasOwnTexts, PICTURE_SIZES } from './facts';
import { importsOf } from './imports';
import { literal } from './literal';

/** One result, with the parts that the design shows and no others. */
export function cardFile(page: InterfacePage): string {
  const { card, geo, columns = 3, badges, link } = page;
  const format = cardFormatOf(page);
  const own = hasOwnTexts(page);
  const money = format === null ? '' : `, ${literal(format)}`;
  const shown = Object.fromEntries(Object.entries(card).filter(([, field]) => field !== undefined));
  const alone = card.number === null;
  const parts = [
    'title',
    ...(card.picture === null ? [] : ['picture', 'smaller']),
    ...(['detail', 'second', 'text'] as const).filter((part) => (card[part] ?? null) !== null),
  ];
  const figures = [
    ...(geo === null
      ? []
      : [
          `{result.distanceM !== undefined && (
            <${alone ? 'p' : 'span'} data-part="card-distance">{${own ? `PAGE_TEXTS.say('away', { distance: PAGE_TEXTS.distance(result.distanceM) })` : '`${distance(result.distanceM)} away`'}}</${alone ? 'p' : 'span'}>
          )}`,
        ]),
    ...(card.number === null
      ? []
      : [
          `{number && (
            <span>
              {${own ? 'PAGE_TEXTS.label(number.label)' : 'number.label'}}{' '}
              ${card.former ? `{number.former !== undefined && <s data-part="card-former">{${own ? `PAGE_TEXTS.figure(number.former${money})` : `figureText({ ...number, value: number.former }${money})`}}</s>}{' '}` : ''}
              <b data-part="figure">{${own ? `PAGE_TEXTS.figure(number.value${money})` : `figureText(number${money})`}}</b>
            </span>
          )}`,
        ]),
  ];
  const body = `
/** Which field each part of a result comes from. */
export const CARD: Card = ${literal(shown)};
${badges === undefined ? '' : `\nconst BADGES = ${literal(badges)};\n`}
interface ResultProps {
  result: SearchResult;
${card.picture === null ? '' : '  /** Its row on the page, from 0. */\n  row: number;'}
  onOpen: (event: MouseEvent) => void;
}

/** One result. */
export function ResultCard({ result, ${card.picture === null ? '' : 'row, '}onOpen }: ResultProps) {
  const { ${[...parts, ...(card.number === null ? [] : ['number']), 'elsewhere'].join(', ')} } = shownHit(result, CARD, SERVER);
  return (
    <article data-part="card">
      ${
        card.picture === null
          ? ''
          : `{picture && (
        <img
          srcSet={smaller}
          sizes="${PICTURE_SIZES}"
          src={picture}
          alt=""
          width={320}
          height={240}
          {...(row < ${columns} ? { fetchPriority: 'high' } : { loading: 'lazy', decoding: 'async' })}
        />
      )}`
      }
      <div data-part="card-body">
        ${badges === undefined ? '' : '<Badges page={{ badges: BADGES }} result={result} />'}
        <h2>
          <a href={${link === undefined ? '' : `recordLink(${literal(link)}, result.id, result.record) ?? `}recordHref(result)} onClick={onOpen}>
            <Marked text={title.text} ranges={title.ranges} />
          </a>
        </h2>
        ${
          card.detail === null
            ? ''
            : `{detail && (
          <p data-part="card-detail">
            <Marked text={detail.text} ranges={detail.ranges} />
          </p>
        )}`
        }
        ${
          (card.second ?? null) === null
            ? ''
            : `{second && (
          <p data-part="card-detail" data-line="2">
            <Marked text={second.text} ranges={second.ranges} />
          </p>
        )}`
        }
        ${
          card.text === null
            ? ''
            : `{text && (
          <p data-part="card-text">
            {text.heading && <span data-part="soft">{text.heading}: </span>}
            <Marked text={text.text} ranges={text.ranges} />
          </p>
        )}`
        }
        {/* Found in a field that is not on the card. */}
        {elsewhere && (
          <p data-part="card-elsewhere">
            {${own ? 'PAGE_TEXTS.label(elsewhere.label)' : 'elsewhere.label'}}: <Marked text={elsewhere.text} ranges={elsewhere.ranges} />
          </p>
        )}
        ${figures.length === 0 ? '' : card.number === null ? figures.join('') : `<p data-part="card-number">${figures.join('\n')}</p>`}
      </div>
    </article>
  );
}
`;
  return importsOf(body, { './texts': 'PAGE_TEXTS', './yucca': 'SERVER recordHref' }) + body;
}
