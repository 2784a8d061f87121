/** In place of the script with what few pages use: see drop-in/small/more.ts. */
export const needsMore = (): boolean => false;
export const loadMore = (): Promise<string> => Promise.resolve('');
export const moreLiesAt = (): void => {};
