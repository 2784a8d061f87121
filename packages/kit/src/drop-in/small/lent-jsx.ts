/** See lent-react.ts. */
import type * as Own from 'preact/jsx-runtime';

export const { jsx, jsxs, Fragment } = (globalThis as unknown as { yuccaLent: { jsx: typeof Own } }).yuccaLent.jsx;
