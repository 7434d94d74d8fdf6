import type { Mark } from './marks.js';

/**
 * The kinds of node a sound document is made of. A document's shape is stated once, as a tree of these (see
 * `shape.ts`);
 * types, validation, defaults, the parameter table and the published JSON Schema all derive from that tree.
 */
export type Unit =
  | 'dB'
  | 'Hz'
  | 'ms'
  | 's'
  | '%'
  | 'st'
  | 'ct'
  | '°'
  | 'beats'
  | 'bpm'
  | 'Q'
  | 'oct'
  | 'LUFS'
  | 'LU'
  | 'dBTP'
  | 'ticks'
  | 'frames'
  | 'note'
  | '';

/**
 * How a slider and a link travel from `min` to `max`: evenly, or by equal ratios. Levels in dB are even steps
 * of dB.
 */
export type Scale = 'linear' | 'log' | 'dB';

/**
 * What every node may carry: what a change of it rebuilds (`rebuild.ts`), and the version of the document
 * that brought it (`since.ts`).
 */
interface Marked {
  readonly rebuilds?: readonly Mark[];
  readonly since?: number;
}

/** One number a person can turn: a row of the parameter table. */
export interface NumberNode<M extends boolean = boolean> extends Marked {
  readonly kind: 'number';
  readonly label: string;
  readonly unit: Unit;
  readonly min: number;
  readonly max: number;
  readonly default: number;
  readonly scale: Scale;
  readonly step: number;
  /** Whether movers may reach it. */
  readonly movable: M;
  /** Whether it works on left and right by itself, so that a mover may carry the two apart. */
  readonly sided: boolean;
  /** Whether only whole numbers are allowed. */
  readonly whole: boolean;
  /** Whether it is an amplitude in %, so that dB may be typed for it. */
  readonly amplitude: boolean;
  /** One line that says what it does. */
  readonly help: string;
}
export interface TextNode extends Marked {
  readonly kind: 'text';
  readonly maxLength: number;
  readonly pattern?: RegExp;
  readonly default: string;
}
export interface FlagNode extends Marked {
  readonly kind: 'flag';
  readonly default: boolean;
}
export interface ChoiceNode<O extends string = string> extends Marked {
  readonly kind: 'choice';
  readonly options: readonly O[];
  readonly default: O;
}
export interface ListNode<N = unknown> extends Marked {
  readonly kind: 'list';
  readonly of: N;
  readonly min: number;
  readonly max: number;
  readonly unique?: string;
}
export interface ObjectNode<F = Record<string, unknown>> extends Marked {
  readonly kind: 'object';
  readonly fields: F;
  /** Whether it is not built while its `on` is false. */ readonly switched?: boolean;
}
export interface NullableNode<N = unknown> extends Marked {
  readonly kind: 'nullable';
  readonly of: N;
}
/** One of several objects, told apart by their field `kind`. */
export interface VariantNode<C = Record<string, unknown>> extends Marked {
  readonly kind: 'variant';
  readonly cases: C;
}
export interface LiteralNode<V = string | number> extends Marked {
  readonly kind: 'literal';
  readonly value: V;
}

export type SchemaNode =
  | NumberNode
  | TextNode
  | FlagNode
  | ChoiceNode
  | ListNode<SchemaNode>
  | ObjectNode<Record<string, SchemaNode>>
  | NullableNode<SchemaNode>
  | VariantNode<Record<string, ObjectNode<Record<string, SchemaNode>>>>
  | LiteralNode;

/** The TypeScript type of the values that a node describes. */
export type Infer<N> = N extends NumberNode
  ? number
  : N extends TextNode
    ? string
    : N extends FlagNode
      ? boolean
      : N extends ChoiceNode<infer O>
        ? O
        : N extends LiteralNode<infer V>
          ? V
          : N extends ListNode<infer I>
            ? Infer<I>[]
            : N extends NullableNode<infer I>
              ? Infer<I> | null
              : N extends VariantNode<infer C>
                ? { [K in keyof C]: Infer<C[K]> & { kind: K } }[keyof C]
                : N extends ObjectNode<infer F>
                  ? { [K in keyof F]: Infer<F[K]> }
                  : never;

type NumberOptions = Partial<
  Pick<NumberNode, 'scale' | 'step' | 'movable' | 'sided' | 'whole' | 'amplitude'>
>;
type Movable<O> = O extends { readonly movable: true } ? true : false;

export function number<const O extends NumberOptions = Record<never, never>>(
  label: string,
  unit: Unit,
  min: number,
  max: number,
  def: number,
  help: string,
  options?: O,
): NumberNode<Movable<O>> {
  const {
    scale = unit === 'dB' ? 'dB' : 'linear',
    whole = false,
    amplitude = false,
    movable = false,
    sided = false,
    step,
  }: NumberOptions = options ?? {};
  const fine = whole ? 1 : scale === 'log' ? 0.01 : (max - min) / 1000;
  return {
    kind: 'number',
    label,
    unit,
    min,
    max,
    default: def,
    scale,
    step: step ?? fine,
    movable: movable as Movable<O>,
    sided,
    whole,
    amplitude,
    help,
  };
}
export const text = (maxLength: number, def = '', pattern?: RegExp): TextNode => ({
  kind: 'text',
  maxLength,
  default: def,
  pattern,
});
export const flag = (def: boolean): FlagNode => ({ kind: 'flag', default: def });
export const choice = <const O extends string>(options: readonly O[], def: NoInfer<O>): ChoiceNode<O> => ({
  kind: 'choice',
  options,
  default: def,
});
export const list = <N extends SchemaNode>(
  of: N,
  min: number,
  max: number,
  unique?: string,
): ListNode<N> => ({ kind: 'list', of, min, max, unique });
export const object = <F extends Record<string, SchemaNode>>(fields: F): ObjectNode<F> => ({
  kind: 'object',
  fields,
});
export const nullable = <N extends SchemaNode>(of: N): NullableNode<N> => ({ kind: 'nullable', of });
export const variant = <C extends Record<string, ObjectNode<Record<string, SchemaNode>>>>(
  cases: C,
): VariantNode<C> => ({ kind: 'variant', cases });

type AnyVariant = Extract<SchemaNode, { kind: 'variant' }>;

/** The shape that a variant has for a kind; null where it has none: a kind from outside may be any value. */
export const caseOf = ({ cases }: AnyVariant, kind: unknown): AnyVariant['cases'][string] | null =>
  typeof kind === 'string' && Object.hasOwn(cases, kind) ? cases[kind] : null;

export const literal = <const V extends string | number>(value: V): LiteralNode<V> => ({
  kind: 'literal',
  value,
});
