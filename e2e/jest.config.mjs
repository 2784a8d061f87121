import { shared } from '../jest.shared.mjs';

// A built studio is started for each file; a slow machine needs its time.
export default { ...shared, displayName: 'e2e', testMatch: ['**/tests/**/*.test.ts', '**/hostile/**/*.test.ts'] };
