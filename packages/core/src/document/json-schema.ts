import type { SchemaNode } from '../schema/schema.js';
import { unitShape } from '../kinds/units/index.js';
import { soundShape } from './shape.js';

type Json = Record<string, unknown>;

/** What stands in many places is said once. */
const DEFINED: ReadonlyMap<SchemaNode, string> = new Map([[unitShape, 'unit']]);

function convert(node: SchemaNode): Json {
  const name = DEFINED.get(node);
  return name === undefined ? converted(node) : { $ref: `#/$defs/${name}` };
}

function converted(node: SchemaNode): Json {
  switch (node.kind) {
    case 'number':
      return {
        type: node.whole ? 'integer' : 'number',
        minimum: node.min,
        maximum: node.max,
        default: node.default,
        title: node.label,
        description: node.unit ? `${node.help} Unit: ${node.unit}.` : node.help,
      };
    case 'text':
      return {
        type: 'string',
        maxLength: node.maxLength,
        ...(node.pattern ? { pattern: node.pattern.source } : {}),
      };
    case 'flag':
      return { type: 'boolean' };
    case 'choice':
      return { enum: [...node.options] };
    case 'literal':
      return { const: node.value };
    case 'nullable':
      return { anyOf: [convert(node.of), { type: 'null' }] };
    case 'list':
      return { type: 'array', items: convert(node.of), minItems: node.min, maxItems: node.max };
    case 'variant':
      return { oneOf: Object.values(node.cases).map(convert) };
    case 'object':
      return {
        type: 'object',
        properties: Object.fromEntries(
          Object.entries(node.fields).map(([key, field]) => [key, convert(field)]),
        ),
        required: Object.keys(node.fields),
        additionalProperties: false,
      };
  }
}

/** The JSON Schema (2020-12) of the sound file, from the same tree that validates it. */
export function soundJsonSchema(): Json {
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: 'Abyssal sound',
    ...convert(soundShape),
    $defs: Object.fromEntries([...DEFINED].map(([node, name]) => [name, converted(node)])),
  };
}
