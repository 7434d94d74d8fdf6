export { FILTER_MODES, filterShape, type Filter, type FilterMode } from './filter-shape.js';
export { FILTER, type FilterForm } from './filter-core.js';
export { filterMagnitude, kindOf as filterKindOf } from './filter-kinds.js';
export { LayerFilter } from './layer-filter.js';
