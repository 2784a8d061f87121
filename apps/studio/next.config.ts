import type { NextConfig } from 'next';
import path from 'node:path';

const config: NextConfig = {
  transpilePackages: ['@yucca/contract', '@yucca/engine', '@yucca/kit'],
  outputFileTracingRoot: path.join(import.meta.dirname, '../..'),
  poweredByHeader: false,
  devIndicators: false,
};

export default config;
