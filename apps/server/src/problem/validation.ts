import { ValidationPipe, type Type, type ValidationError } from '@nestjs/common';
import { instanceToPlain, plainToInstance } from 'class-transformer';
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

type Field = readonly [name: string, value: unknown];
const isTree = ([, value]: Field) => typeof value === 'object' && value !== null;

/**
 * A request under its DTO. Single values are converted as the DTO says; objects and lists stay as they were sent:
 * class-transformer would go through every value of a document, with work that grows as the square of the keys of
 * an object.
 */
function toInstance<T>(type: Type<T>, sent: unknown): T {
  const fields: Field[] = Object.entries(sent as object);
  const instance = plainToInstance(type, Object.fromEntries(fields.filter((field) => !isTree(field))));
  for (const [name, value] of fields.filter(isTree))
    Object.defineProperty(instance, name, { value, enumerable: true, writable: true, configurable: true });
  return instance;
}

/** Checks every request against its DTO; what is wrong is told with its path. Unknown fields are refused. */
export function validation(): ValidationPipe {
  return new ValidationPipe({
    whitelist: true,
    forbidNonWhitelisted: true,
    transform: true,
    transformerPackage: { plainToInstance: toInstance, classToPlain: instanceToPlain },
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
