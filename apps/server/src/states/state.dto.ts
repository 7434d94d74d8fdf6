import type { SoundDocument } from '@abyssal/core';
import { ApiProperty } from '@nestjs/swagger';
import { IsString, Length } from 'class-validator';
import { IsPlainText } from '../problem/plain-text.validator.js';
import { IsSoundDocument } from '../sounds/sound-document.validator.js';

/** A state of a sound to be kept under a name. */
export class KeepStateDto {
  @ApiProperty()
  @IsString()
  @Length(1, 80)
  @IsPlainText()
  name!: string;

  @ApiProperty({ type: Object, description: 'A sound document; see the JSON Schema in docs.' })
  @IsSoundDocument()
  document!: SoundDocument;
}

/** A figure of what was measured of a state. */
export class StateFigureDto {
  @ApiProperty() id!: string;
  @ApiProperty() label!: string;
  @ApiProperty() unit!: string;
  @ApiProperty({ type: Number, nullable: true }) value!: number | null;
  @ApiProperty({ type: Number, nullable: true }) outOf!: number | null;
  @ApiProperty() verdict!: string;
}

export class StateSummaryDto {
  @ApiProperty() id!: string;
  @ApiProperty() name!: string;
  @ApiProperty({ format: 'date-time' }) keptAt!: string;
  @ApiProperty({ type: [StateFigureDto], description: 'What was measured of it; empty before.' })
  figures!: readonly StateFigureDto[];
}

export class StateDto extends StateSummaryDto {
  @ApiProperty({ type: Object }) document!: SoundDocument;
}
