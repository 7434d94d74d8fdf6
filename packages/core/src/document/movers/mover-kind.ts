import { flag, literal, text, type ObjectNode, type SchemaNode } from '../schema/schema.js';
import { rebuilds } from '../schema/rebuild.js';
import { ID } from '../schema/shape-parts.js';

/** What a kind of mover brings to the document. */
export interface MoverKindSpec {
  readonly shape: ObjectNode<Record<string, SchemaNode>>;
  /** Where it begins when its lists may not be empty. */
  readonly start?: () => object;
  /** What no single field of it can tell: calls back with the field and what is wrong with it. */
  check?(mover: never, problem: (field: string, message: string) => void): void;
}

/** The fields that every mover has. */
export const moverFields = <const K extends string>(kind: K, id: string, name: string) => ({
  kind: literal(kind),
  id: rebuilds('instrument', text(40, id, ID)),
  name: text(40, name),
  on: flag(true),
});
