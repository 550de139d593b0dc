export { Invalid, check } from './check.js';
export * from './live.js';
export { openApi } from './openapi.js';
export { operations } from './operations.js';
export type { Operation, Operations } from './operations.js';
export * from './shapes.js';
