export { Invalid, check } from './check.js';
export * from './going-back.js';
export * from './live.js';
export { openApi } from './openapi.js';
export type { Operation } from './operation.js';
export { operations } from './operations.js';
export type { Operations } from './operations.js';
export * from './past.js';
export * from './shapes.js';
