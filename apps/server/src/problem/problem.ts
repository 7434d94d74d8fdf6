import { HttpException } from '@nestjs/common';

/** An answer that says what went wrong: problem details (RFC 9457). `title` is one clear sentence. */
export interface ProblemDetails {
  readonly type: string;
  readonly title: string;
  readonly status: number;
  readonly [extension: string]: unknown;
}

/** Thrown to answer with problem details of a kind; `kind` ends the type's URI. */
export class Refusal extends HttpException {
  constructor(
    status: number,
    readonly kind: string,
    title: string,
    readonly extensions: Readonly<Record<string, unknown>> = {},
  ) {
    super(title, status);
  }

  details(): ProblemDetails {
    return {
      type: `urn:abyssal:problem:${this.kind}`,
      title: this.message,
      status: this.getStatus(),
      ...this.extensions,
    };
  }
}

export const diskFull = (): Refusal =>
  new Refusal(
    507,
    'disk-full',
    'The disk of the server is full, so nothing can be saved. Your work stays in this browser and is saved once there is room.',
  );
