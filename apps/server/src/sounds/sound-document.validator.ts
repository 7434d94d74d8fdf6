import { findProblems } from '@abyssal/core';
import { registerDecorator, type ValidationArguments } from 'class-validator';

/** Checks a field by the core's own validation of sound documents; the first problem is the message. */
export function IsSoundDocument(): PropertyDecorator {
  return (target, propertyName) => {
    registerDecorator({
      name: 'isSoundDocument',
      target: target.constructor,
      propertyName: String(propertyName),
      validator: {
        validate: (value: unknown) => findProblems(value).length === 0,
        defaultMessage: ({ value }: ValidationArguments) => {
          const [first] = findProblems(value);
          return `${first.path ? `${first.path}: ` : ''}${first.message}`;
        },
      },
    });
  };
}
