import {
  CHAIN_FORMAT,
  CHAIN_VERSION,
  chainFileShape,
  DocumentError,
  findGritProblems,
  GRIT_FORMAT,
  gritFileShape,
  type ChainFile,
  type GritFile,
} from '../document/index.js';
import { anyDefault } from '../schema/default.js';
import { caseOf, type SchemaNode } from '../schema/schema.js';
import { isTree, type Tree } from '../schema/tree.js';
import { readJson } from './bounded-json.js';
import { FormatError } from './format-error.js';

/** Fills in what a value leaves out by its defaults; what is of another type stays, for validation to name it. */
function completed(node: SchemaNode, value: unknown): unknown {
  switch (node.kind) {
    case 'object': {
      if (!isTree(value)) return value;
      const filled: Tree = { ...value };
      for (const [key, field] of Object.entries(node.fields))
        filled[key] = Object.hasOwn(value, key) ? completed(field, value[key]) : anyDefault(field);
      // What is switched, and given, is meant to be on.
      if (node.switched && !Object.hasOwn(value, 'on')) filled.on = true;
      return filled;
    }
    case 'list': {
      if (!Array.isArray(value)) return value;
      const given = value.map((entry) => completed(node.of, entry));
      const missing = Math.max(0, node.min - given.length);
      return [...given, ...Array.from({ length: missing }, () => anyDefault(node.of))];
    }
    case 'variant': {
      const shape = isTree(value) ? caseOf(node, value.kind) : null;
      return shape ? completed(shape, value) : value;
    }
    default:
      return value;
  }
}

/** Gives every entry without an id one of its own, named after what it is. */
function withIds(list: unknown, taken: Set<unknown>, nameOf: (entry: Tree) => string): unknown {
  if (!Array.isArray(list)) return list;
  return list.map((entry: unknown) => {
    if (!isTree(entry) || Object.hasOwn(entry, 'id')) return entry;
    const name = nameOf(entry);
    let n = 1;
    while (taken.has(`${name}-${n}`)) n++;
    taken.add(`${name}-${n}`);
    return { ...entry, id: `${name}-${n}` };
  });
}

const unitName = ({ kind }: Tree) => (typeof kind === 'string' ? kind.replaceAll(' ', '-') : 'unit');

/**
 * Reads a chain or all of grit from JSON; parameters that are left out take their defaults. Throws a `FormatError`
 * for what is no JSON and a `DocumentError` that names each wrong field.
 */
export function readChainFile(text: string): ChainFile | GritFile {
  let value: unknown;
  try {
    value = readJson(text);
  } catch (error) {
    throw new FormatError(
      `this is no chain: ${error instanceof FormatError ? error.message : 'it is not JSON'}`,
    );
  }
  if (!isTree(value)) throw new DocumentError(findGritProblems(value));
  if (
    value.formatVersion !== CHAIN_VERSION &&
    (value.format === CHAIN_FORMAT || value.format === GRIT_FORMAT)
  )
    throw new FormatError(
      `the chain is of version ${String(value.formatVersion)}; this program reads version ${CHAIN_VERSION}`,
    );
  const taken = new Set<unknown>();
  const units = (list: unknown) => withIds(list, taken, unitName);
  const whole = value.format === GRIT_FORMAT;
  const given = whole
    ? {
        ...value,
        bands: withIds(
          Array.isArray(value.bands)
            ? value.bands.map((band: unknown) =>
                isTree(band) && Object.hasOwn(band, 'units') ? { ...band, units: units(band.units) } : band,
              )
            : value.bands,
          new Set(),
          () => 'band',
        ),
        ...(Object.hasOwn(value, 'after') && { after: units(value.after) }),
      }
    : { ...value, units: units(value.units) };
  const full = completed(whole ? gritFileShape : chainFileShape, given);
  const problems = findGritProblems(full);
  if (problems.length > 0) throw new DocumentError(problems);
  return full as ChainFile | GritFile;
}

/** Writes a chain or all of grit. */
export const writeChainFile = (chain: ChainFile | GritFile): string => `${JSON.stringify(chain, null, 1)}\n`;
