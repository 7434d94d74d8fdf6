/** What carries numbers: where movers and macros stand, and how far the links of a document reach now. */
export interface Carriers {
  /** Where each mover and then each macro stands, 0 to 1, and whether it is on. */
  readonly value: Float64Array;
  readonly on: Uint8Array;
  /**
   * A bit for each of them, by its place: whether it, or the reach of a link of its, stands elsewhere than at the
   * last step of the bank that it carries.
   */
  readonly changed: Int32Array;
  /** How far each link of the document reaches now, −1 to 1, and whether macros let it. */
  readonly reach: Float64Array;
  /** The same from where each link starts: how far it carries between its mover's two ends. */
  readonly span: Float64Array;
  readonly linkOn: Uint8Array;
  /** How often macros have switched links: who is reached by them sees by it that what they carry jumps. */
  readonly switched: Int32Array;
  /** The place of the loop: at its third place where lanes are read, in ticks; at its first below 0 for none. */
  readonly inputs: { readonly place: Float64Array };
}
