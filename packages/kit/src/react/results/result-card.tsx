import type { MouseEvent, ReactNode } from 'react';
import type { ShownHit } from '../../card.ts';
import type { FigureFormat } from '../../figures.ts';
import { Marked } from '../marked.tsx';
import { useTexts } from '../use-texts.ts';

/** What `ResultCard` is given. */
export interface ResultCardProps {
  hit: ShownHit;
  /** Where its title leads. */
  href?: string | undefined;
  /** Hears that its title was pressed, before the browser goes there. */
  onOpen?: ((event: MouseEvent) => void) | undefined;
  /** How its number is written: in a currency (ISO 4217), or as its field is. */
  currency?: FigureFormat;
  /** Words on it: `<Badges>`. */
  badges?: ReactNode;
  /** From the place that is asked about. */
  distanceM?: number | undefined;
  /** It stands in the first row: its picture is asked for at once, before others. */
  eager?: boolean;
}

/** What a number was before. */
function Former({ value, currency }: { value: number; currency: FigureFormat }) {
  const { say, figure: figureText } = useTexts();
  const figure = figureText(value, currency);
  return (
    <>
      <s data-part="card-former" aria-label={say('before', { figure })}>
        {figure}
      </s>{' '}
    </>
  );
}

/** One result as a visitor sees it. */
export function ResultCard({ hit, href, onOpen, currency, badges, distanceM, eager = false }: ResultCardProps) {
  const { say, distance, label, figure: figureText } = useTexts();
  const { title, picture, smaller, detail, second, text, number: figure, elsewhere } = hit;
  const name = <Marked text={title.text} ranges={title.ranges} />;
  return (
    <article data-part="card">
      {picture && (
        // eslint-disable-next-line @next/next/no-img-element -- the kit knows no framework
        <img
          srcSet={smaller}
          // On a wide screen it stands above the text of its card.
          sizes="(min-width:640px)320px,112px"
          src={picture}
          alt=""
          width={320}
          height={240}
          // What is seen first is painted with its text, not a frame later.
          {...(eager ? { fetchPriority: 'high' } : { loading: 'lazy', decoding: 'async' })}
        />
      )}
      <div data-part="card-body">
        {badges}
        <h2>
          {href === undefined ? (
            name
          ) : (
            <a href={href} onClick={onOpen}>
              {name}
            </a>
          )}
        </h2>
        {detail && (
          <p data-part="card-detail">
            <Marked text={detail.text} ranges={detail.ranges} />
          </p>
        )}
        {second && (
          <p data-part="card-detail" data-line="2">
            <Marked text={second.text} ranges={second.ranges} />
          </p>
        )}
        {text && (
          <p data-part="card-text">
            {text.heading && <span data-part="soft">{text.heading}: </span>}
            <Marked text={text.text} ranges={text.ranges} />
          </p>
        )}
        {elsewhere && (
          <p data-part="card-elsewhere">
            {label(elsewhere.label)}: <Marked text={elsewhere.text} ranges={elsewhere.ranges} />
          </p>
        )}
        {(figure !== null || distanceM !== undefined) && (
          <p data-part="card-number">
            {distanceM !== undefined && (
              <span data-part="card-distance">{say('away', { distance: distance(distanceM) })}</span>
            )}
            {figure && (
              <span>
                {label(figure.label)}{' '}
                {figure.former !== undefined && <Former value={figure.former} currency={currency} />}
                <b data-part="figure">{figureText(figure.value, currency)}</b>
              </span>
            )}
          </p>
        )}
      </div>
    </article>
  );
}
