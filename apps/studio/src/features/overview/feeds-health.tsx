import type { Feed, Page } from '@yucca/contract';
import clsx from 'clsx';
import Link from 'next/link';
import { stateWords } from '@/features/feeds/feed-words';
import { counted } from '@/ui/format';
import { useTold } from '@/ui/use-told';

/** Whether the feeds of a collection are in step, in words that lead there. */
export function FeedsHealth({ collection }: { collection: string }) {
  const { value } = useTold<Page<Feed>>(`/feeds?collection=${collection}&size=200`);
  const feeds = value?.items ?? [];
  const troubled = feeds.filter(
    ({ state, dead, run, drift }) =>
      state === 'failing' ||
      dead > 0 ||
      run?.state === 'asking' ||
      (drift && drift.missing + drift.different + drift.extra > 0),
  );
  const [first] = troubled.length > 0 ? troubled : feeds;
  if (first === undefined) return <p className="mt-1 min-h-6" />;
  const others = troubled.length > 0 ? troubled.length - 1 : feeds.length - 1;
  return (
    <p className="mt-1 min-h-6 text-[13px]">
      <Link
        href={`/c/${collection}/feeds?feed=${first.id}`}
        className={clsx('hover:text-agave', troubled.length > 0 ? 'text-madder' : 'text-soft')}
      >
        {first.name}: {stateWords(first).replace(/^./u, (letter) => letter.toLowerCase())}
        {others > 0 && `, and ${counted(others, 'feed')} more`}
      </Link>
    </p>
  );
}
