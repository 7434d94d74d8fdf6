import { findLayerProblems, type Layer } from '@abyssal/core';
import { ApiProperty } from '@nestjs/swagger';
import { IsIn, IsString, Length, registerDecorator, type ValidationArguments } from 'class-validator';

export const PART_KINDS = ['layer'] as const;
export type PartKind = (typeof PART_KINDS)[number];

/** Checks a field by the core's own validation of a layer; the first problem is the message. */
function IsLayer(): PropertyDecorator {
  return (target, propertyName) => {
    registerDecorator({
      name: 'isLayer', target: target.constructor, propertyName: String(propertyName),
      validator: {
        validate: (value: unknown) => findLayerProblems(value).length === 0,
        defaultMessage: ({ value }: ValidationArguments) => {
          const [first] = findLayerProblems(value);
          return `${first.path ? `${first.path}: ` : ''}${first.message}`;
        },
      },
    });
  };
}

/** A part to be kept. */
export class KeepPartDto {
  @ApiProperty({ enum: PART_KINDS }) @IsIn(PART_KINDS)
  kind!: PartKind;

  @ApiProperty() @IsString() @Length(1, 80)
  name!: string;

  @ApiProperty({ type: Object, description: 'A layer, as it stands in a sound document.' }) @IsLayer()
  content!: Layer;
}

export class ListPartsDto {
  @ApiProperty({ enum: PART_KINDS }) @IsIn(PART_KINDS)
  kind!: PartKind;
}

export class PartSummaryDto {
  @ApiProperty() id!: string;
  @ApiProperty({ enum: PART_KINDS }) kind!: string;
  @ApiProperty() name!: string;
  @ApiProperty({ format: 'date-time' }) keptAt!: string;
}

export class PartDto extends PartSummaryDto {
  @ApiProperty({ type: Object }) content!: Layer;
}
