export { openApiDocument } from './document.ts';
export { GROUPS, OPERATIONS, type Content, type Operation, type QueryParameter } from './operations.ts';
export { SCHEMAS, type Schema } from './schemas.ts';
