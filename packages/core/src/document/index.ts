export type { Infer, NumberNode, Scale, SchemaNode, Unit } from '../schema/schema.js';
export * from '../schema/bounds.js';
export { defaultOf } from '../schema/default.js';
export type { Rebuild } from '../schema/marks.js';
export { keyOf } from '../schema/rebuild.js';
export { extentOf } from '../schema/extent.js';
export { placesOf, type Places } from '../schema/places.js';
export * from './tone-shape.js';
export * from './layer-shape.js';
export * from './kick-shape.js';
export * from './fit-shape.js';
export * from './grit-shape.js';
export { unitShape, UNIT_NAMES, type GritUnit, type UnitKind, type UnitOf } from '../kinds/units/index.js';
export * from './shape.js';
export * from './systems-shape.js';
export { targetsShape, type Targets } from './targets-shape.js';
export {
  CONTROL_WAYS,
  MACRO_IDS,
  moverShape,
  type ControlBinding,
  type Cycle,
  type Macro,
  type MacroSwitch,
  type Mover,
  type MoverKind,
  type MoverOf,
  type ShapeNode,
} from '../kinds/movers/index.js';
export { FILTER_MODES, filterShape, type Filter, type FilterMode } from '../kinds/filters/index.js';
export type { Parameter } from '../schema/parameter.js';
export * from './parameters.js';
export * from './targets.js';
export * from './units.js';
export * from './unit-names.js';
export * from './net.js';
export * from './reach.js';
export * from './dangling.js';
export * from './moves.js';
export * from './switches.js';
export * from './defaults.js';
export * from './differences.js';
export * from './movable-values.js';
export { migrate, migratePart, type PartKind } from './migrate.js';
export * from './validate.js';
export * from './json-schema.js';
export * from './entry.js';
export { isUnheard, UNHEARD_PARTS } from './unheard.js';
