import type { FeedPreviewAnswer } from '@yucca/contract';

/** So many fields are columns; the rest is told by its number. */
const COLUMNS = 7;
const ROWS = 6;

/** Records as they would be stored, and how they came: beside, or where one rests on them. */
export function PreviewTable({
  records,
  showsBefore = false,
}: {
  records: FeedPreviewAnswer['records'];
  showsBefore?: boolean;
}) {
  const names = [...new Set(records.flatMap(({ after }) => Object.keys(after ?? {})))];
  const shown = names.slice(0, COLUMNS);
  if (records.length === 0) return null;
  return (
    <div className="overflow-x-auto">
      <table className="text-[13px]">
        <thead>
          <tr className="bg-sunk text-left">
            {showsBefore && (
              <th scope="col" className="px-2 py-1 font-medium">
                As it came
              </th>
            )}
            {shown.map((name) => (
              <th key={name} scope="col" className="px-2 py-1 font-medium">
                {name}
              </th>
            ))}
            {names.length > shown.length && (
              <th scope="col" className="px-2 py-1 font-normal whitespace-nowrap text-soft">
                and {names.length - shown.length} more
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {records.slice(0, ROWS).map(({ before, after, problem }, i) => (
            <tr
              key={i}
              className="border-b border-line align-top"
              title={`As it came: ${textOf(before).slice(0, 600)}`}
            >
              {showsBefore && <td className="figures max-w-[320px] truncate px-2 py-1 text-soft">{textOf(before)}</td>}
              {after === null ? (
                <td colSpan={shown.length + 1} className="px-2 py-1 text-madder">
                  {problem}
                </td>
              ) : (
                shown.map((name) => (
                  <td key={name} className="figures max-w-[220px] truncate px-2 py-1">
                    {after[name] === undefined ? '' : textOf(after[name])}
                  </td>
                ))
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const textOf = (value: unknown): string => (typeof value === 'string' ? value : JSON.stringify(value));
