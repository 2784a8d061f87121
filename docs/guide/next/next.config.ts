import type { NextConfig } from 'next';

const config: NextConfig = {
  // Other projects may lie in the folders above.
  outputFileTracingRoot: import.meta.dirname,
  turbopack: { root: import.meta.dirname },
};

export default config;
