/**
 * What the mix is given of a layer or the kick, a block at a time; where it is silent the blocks hold nothing
 * of worth.
 */
export interface Block {
  readonly silent: boolean;
  readonly left: Float64Array;
  readonly right: Float64Array;
}
export interface LayerBlock extends Block {
  readonly role: string;
}
