export { openApiDocument } from './document.ts';
export { GROUPS, OPERATIONS, type Content, type Operation, type QueryParameter } from './operations.ts';
export type { Schema } from '../schema-of.ts';
export { SCHEMAS } from './schemas.ts';
