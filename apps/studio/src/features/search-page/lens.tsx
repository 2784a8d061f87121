'use client';

import '@yucca/kit/lens.css';
import type { InterfacePage } from '@yucca/contract';
import { requestFor, searchParams, standingRequest, type Query } from '@yucca/kit';
import { measureFirstResults, NetworkLens, overLine, type Line, type RequestLog } from '@yucca/kit/lens';

interface LensProps {
  log: RequestLog;
  line: Line;
  onLine: (line: Line) => void;
  page: InterfacePage;
  query: Query;
  pageKey: string;
}

/** The developer's panel of a hosted page: `?lens=1`. */
export default function Lens({ log, line, onLine, page, query, pageKey }: LensProps) {
  const measure = () => {
    const search = searchParams(requestFor(query, standingRequest(page)));
    search.set('key', pageKey);
    return measureFirstResults({
      fetch: overLine(
        (...args) => window.fetch(...args),
        () => line,
      ),
      html: window.location.href,
      mark: 'data-part="card"',
      chain: [
        // The smallest document there is stands for a page that holds nothing yet.
        '/api/v1/health',
        '/yucca-search.js',
        `/api/v1/interfaces/${page.slug}/page?key=${encodeURIComponent(pageKey)}`,
        `/api/v1/collections/${page.collection}/search?${search}`,
      ],
    });
  };
  return <NetworkLens log={log} line={line} onLine={onLine} measure={measure} />;
}
