import type { InsightItem, Insights, Page } from '@yucca/contract';
import Link from 'next/link';
import { useTold } from '@/ui/use-told';
import { count, counted } from '@/ui/format';
import { Sparkline } from '@/ui/sparkline';

/** What visitors of a collection did in the last 30 days, and what needs a look, in words that lead there. */
export function Health({ collection }: { collection: string }) {
  const { value: told } = useTold<Insights>(`/collections/${collection}/insights`);
  const { value: failed } = useTold<Page<InsightItem>>(`/collections/${collection}/insights/nothing?size=1`);
  if (told === null || failed === null) return <p className="mt-2 min-h-6" />;
  const { searches, nothing } = told.totals;
  const base = `/c/${collection}/insights`;
  const [worst] = failed.items;
  return (
    <p className="mt-2 flex min-h-6 flex-wrap items-center gap-x-4 text-[13px]">
      <Sparkline values={told.series.map((point) => point.searches)} />
      <Link href={base} className="figures hover:text-agave">
        {counted(searches, 'search', 'searches')} in 30 days
      </Link>
      {searches > 0 && (
        <span className="figures text-soft">{((nothing / searches) * 100).toFixed(1)}% found nothing</span>
      )}
      {worst && worst.fixedSince === undefined && (
        <Link href={`${base}?list=nothing&probe=${encodeURIComponent(worst.query!)}`} className="link">
          {failed.total === 1 ? 'One query finds' : `${count(failed.total)} queries find`} nothing, “{worst.query}” most
          often
        </Link>
      )}
    </p>
  );
}
