import type { NextConfig } from 'next';
import path from 'node:path';

const config: NextConfig = {
  transpilePackages: ['@yucca/contract', '@yucca/engine', '@yucca/kit'],
  outputFileTracingRoot: path.join(import.meta.dirname, '../..'),
  poweredByHeader: false,
  devIndicators: false,
  // A redirect from a path with a slash to one without would turn one request into another; routes say 404
  // (http/route.ts).
  skipTrailingSlashRedirect: true,
  // Pages of other sites fetch it as a module, which browsers ask leave for.
  headers: () =>
    Promise.resolve([
      {
        source: '/yucca-search-:part(more|insights).js',
        headers: [{ key: 'Access-Control-Allow-Origin', value: '*' }],
      },
    ]),
};

export default config;
