export type { Infer, NumberNode, Scale, SchemaNode, Unit } from './schema.js';
export * from './shape.js';
export * from './parameters.js';
export * from './defaults.js';
export * from './validate.js';
export * from './json-schema.js';
export * from './entry.js';
