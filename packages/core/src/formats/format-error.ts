/** A file that cannot be taken, with one sentence that says why and, where there is one, a way on. */
export class FormatError extends Error {
  override readonly name = 'FormatError';
}
