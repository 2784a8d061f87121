export { createOfflineClient, type OfflineClient, type Thread } from './client.ts';
export { OfflineCollections } from './collections.ts';
export { filesBelow, OfflineError, type LoadFile } from './files.ts';
