import { textFault } from '@abyssal/core';
import { registerDecorator, type ValidationArguments } from 'class-validator';

/** Checks that a field is text as a document takes it. */
export function IsPlainText(): PropertyDecorator {
  return (target, propertyName) => {
    registerDecorator({
      name: 'isPlainText',
      target: target.constructor,
      propertyName: String(propertyName),
      validator: {
        validate: (value: unknown) => typeof value !== 'string' || textFault(value) === null,
        defaultMessage: ({ value, property }: ValidationArguments) =>
          `the ${property} ${textFault(String(value))}`,
      },
    });
  };
}
