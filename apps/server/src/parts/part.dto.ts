import {
  findBackingProblems,
  findChainProblems,
  findKickProblems,
  findLayerProblems,
  findMoverProblems,
  findShapeProblems,
  findSystemProblems,
  findTargetSetProblems,
  type BackingPart,
  type ChainFile,
  type Cycle,
  type Kick,
  type Layer,
  type Mover,
  type OwnSystem,
  type PartKind,
  type TargetSet,
} from '@abyssal/core';
import { ApiProperty } from '@nestjs/swagger';
import { IsIn, IsString, Length, registerDecorator, type ValidationArguments } from 'class-validator';
import { IsPlainText } from '../problem/plain-text.validator.js';

export type PartContent = Layer | Kick | BackingPart | Mover | Cycle | ChainFile | OwnSystem | TargetSet;

const CHECKS: Readonly<Record<PartKind, typeof findLayerProblems>> = {
  layer: findLayerProblems,
  kick: findKickProblems,
  backing: findBackingProblems,
  mover: findMoverProblems,
  shape: findShapeProblems,
  chain: findChainProblems,
  system: findSystemProblems,
  targets: findTargetSetProblems,
};
export const PART_KINDS = Object.keys(CHECKS) as PartKind[];
/** Every problem of a part of a kind; one of no known kind is told by its kind, not by its content. */
const problemsOf = (value: unknown, part: object) => {
  const { kind } = part as { kind: PartKind };
  return Object.hasOwn(CHECKS, kind) ? CHECKS[kind](value) : [];
};

/** Checks a field by the core's own validation of a part of its kind; the first problem is the message. */
function IsPart(): PropertyDecorator {
  return (target, propertyName) => {
    registerDecorator({
      name: 'isPart',
      target: target.constructor,
      propertyName: String(propertyName),
      validator: {
        validate: (value: unknown, { object }: ValidationArguments) => problemsOf(value, object).length === 0,
        defaultMessage: ({ value, object }: ValidationArguments) => {
          const [first] = problemsOf(value, object);
          return `${first.path ? `${first.path}: ` : ''}${first.message}`;
        },
      },
    });
  };
}

/** A part to be kept. */
export class KeepPartDto {
  @ApiProperty({ enum: PART_KINDS })
  @IsIn(PART_KINDS)
  kind!: PartKind;

  @ApiProperty()
  @IsString()
  @Length(1, 80)
  @IsPlainText()
  name!: string;

  @ApiProperty({
    type: Object,
    description:
      'A layer, kick, backing part or mover, as it is in a sound document, the nodes of a wobble, a chain of units as a file has it, a playback system, or a set of targets.',
  })
  @IsPart()
  content!: PartContent;
}

export class ListPartsDto {
  @ApiProperty({ enum: PART_KINDS })
  @IsIn(PART_KINDS)
  kind!: PartKind;
}

export class PartSummaryDto {
  @ApiProperty() id!: string;
  @ApiProperty({ enum: PART_KINDS }) kind!: string;
  @ApiProperty() name!: string;
  @ApiProperty({ format: 'date-time' }) keptAt!: string;
}

export class PartDto extends PartSummaryDto {
  @ApiProperty({ type: Object }) content!: PartContent;
}
