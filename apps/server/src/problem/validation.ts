import { ValidationPipe, type ValidationError } from '@nestjs/common';
import { Refusal } from './problem.js';

interface Found {
  readonly path: string;
  readonly message: string;
}

function collect(errors: readonly ValidationError[], path: string): Found[] {
  return errors.flatMap((error) => {
    const at = path ? `${path}.${error.property}` : error.property;
    const context = Object.values(error.contexts ?? {}).flatMap(
      (value) => (value as { problems?: Found[] }).problems ?? [],
    );
    const own =
      context.length > 0
        ? context
        : Object.values(error.constraints ?? {}).map((message) => ({ path: at, message }));
    return [...own, ...collect(error.children ?? [], at)];
  });
}

/** Checks every request against its DTO; what is wrong is told with its path. Unknown fields are refused. */
export function validation(): ValidationPipe {
  return new ValidationPipe({
    whitelist: true,
    forbidNonWhitelisted: true,
    transform: true,
    validationError: { target: false, value: false },
    exceptionFactory: (errors) => {
      const problems = collect(errors, '');
      const [first] = problems;
      return new Refusal(
        422,
        'not-valid',
        `${first.path ? `${first.path}: ` : ''}${first.message}${problems.length > 1 ? ` (and ${problems.length - 1} more)` : ''}`,
        { problems },
      );
    },
  });
}
