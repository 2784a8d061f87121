/** The library the drop-in draws with, for the script that is fetched after it: two would not know each other. */
import type * as Own from './react.ts';

export const { Fragment, memo, useCallback, useEffect, useId, useMemo, useRef, useState, useSyncExternalStore } = (
  globalThis as unknown as { yuccaLent: { react: typeof Own } }
).yuccaLent.react;
