import { Marked } from '@yucca/kit/react';
import type { ShownHit } from '@yucca/kit';

/** A result in two lines: picture, title and detail with their marks, and on a third where else it matched. */
export function HitLine({
  hit,
  size,
  short = false,
}: {
  hit: ShownHit;
  /** Of the picture, in pixels. */
  size: number;
  /** Leaves out where else it matched. */
  short?: boolean;
}) {
  const { title, detail, thumbnail: picture, elsewhere } = hit;
  return (
    <>
      {picture && (
        // eslint-disable-next-line @next/next/no-img-element -- pictures come from the records, of any host and size
        <img
          src={picture}
          alt=""
          width={size}
          height={size}
          style={{ width: size, height: size }}
          loading="lazy"
          className="shrink-0 rounded object-cover"
        />
      )}
      <span className="min-w-0 flex-1">
        <span className="block truncate font-medium">
          <Marked text={title.text} ranges={title.ranges} />
        </span>
        {detail && (
          <span className="block truncate text-xs leading-4 text-soft">
            <Marked text={detail.text} ranges={detail.ranges} />
          </span>
        )}
        {elsewhere && !short && (
          <span className="mt-0.5 line-clamp-2 text-xs leading-4 text-soft">
            <span className="figures">{elsewhere.label}</span>{' '}
            <Marked text={elsewhere.text} ranges={elsewhere.ranges} />
          </span>
        )}
      </span>
    </>
  );
}
