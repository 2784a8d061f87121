/** The exact versions that projects are handed over with: those that are tested together here. */
export const VERSIONS = {
  '@types/node': '20.19.43',
  '@types/react': '19.3.0',
  '@types/react-dom': '19.3.0',
  '@vitejs/plugin-react': '5.2.0',
  next: '16.4.6',
  react: '19.3.1',
  'react-dom': '19.3.1',
  'selenium-webdriver': '4.46.0',
  typescript: '6.0.3',
  vite: '7.3.8',
} as const;

export type Dependency = keyof typeof VERSIONS;

/** Names with their versions, as a package.json has them. */
export const versionsOf = (...names: Dependency[]): Record<string, string> =>
  Object.fromEntries(names.sort().map((name) => [name, VERSIONS[name]]));
