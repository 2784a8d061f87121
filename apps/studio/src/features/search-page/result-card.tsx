import { Marked } from '@yucca/kit/react';
import type { ShownHit } from './shown-hit';

const plain = new Intl.NumberFormat('en', { maximumFractionDigits: 2 });
const money = new Intl.NumberFormat('en', { minimumFractionDigits: 2, maximumFractionDigits: 2 });

/** Prices always carry their two decimals, so that a column of them lines up. */
export const figureText = ({ label, value }: NonNullable<ShownHit['number']>): string =>
  (/price|cost|amount/i.test(label) ? money : plain).format(value);

/** One result as a visitor sees it. */
export function ResultCard({
  hit: { title, picture, detail, text, number: figure, elsewhere },
  eager,
}: {
  hit: ShownHit;
  eager: boolean;
}) {
  return (
    <article className="flex h-full overflow-hidden rounded-md border border-line bg-raised sm:flex-col">
      {picture && (
        // eslint-disable-next-line @next/next/no-img-element -- pictures come from the records, of any host and size
        <img
          src={picture}
          alt=""
          width={320}
          height={320}
          loading={eager ? 'eager' : 'lazy'}
          decoding="async"
          className="w-28 shrink-0 self-stretch border-line object-cover max-sm:border-r sm:aspect-[4/3] sm:w-full sm:border-b"
        />
      )}
      <div className="flex min-w-0 flex-1 flex-col p-3">
        <h2 className="text-[15px] leading-5">
          <Marked text={title.text} ranges={title.ranges} />
        </h2>
        {detail && (
          <p className="truncate text-[13px] text-soft">
            <Marked text={detail.text} ranges={detail.ranges} />
          </p>
        )}
        {text && (
          <p className="mt-2 line-clamp-3 text-[13px] leading-[18px]">
            <Marked text={text.text} ranges={text.ranges} />
          </p>
        )}
        {elsewhere && (
          <p className="mt-2 line-clamp-2 text-[13px] leading-[18px] text-soft">
            {elsewhere.label}: <Marked text={elsewhere.text} ranges={elsewhere.ranges} />
          </p>
        )}
        {figure && (
          <p className="mt-auto pt-2 text-[13px] text-soft">
            {figure.label} <span className="figures text-[15px] text-ink">{figureText(figure)}</span>
          </p>
        )}
      </div>
    </article>
  );
}
