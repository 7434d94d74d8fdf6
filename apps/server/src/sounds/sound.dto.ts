import type { SoundDocument } from '@abyssal/core';
import { ApiProperty } from '@nestjs/swagger';
import { Transform, Type } from 'class-transformer';
import { IsBoolean, IsIn, IsInt, IsOptional, IsString, Max, MaxLength, Min } from 'class-validator';
import { SORTS, type Sort } from './list-sql.js';
import { IsSoundDocument } from './sound-document.validator.js';

/** A sound to be kept. */
export class KeepSoundDto {
  @ApiProperty({ type: Object, description: 'A sound document; see the JSON Schema in docs.' })
  @IsSoundDocument()
  document!: SoundDocument;
}

/** What the list of sounds is asked for. */
export class ListSoundsDto {
  @ApiProperty({
    required: false,
    description:
      'Words that must each begin a word of the name, author, tags or key; a note name with a scale after it, as c minor, is that key.',
  })
  @IsOptional()
  @IsString()
  @MaxLength(200)
  search = '';

  @ApiProperty({ required: false, enum: SORTS })
  @IsOptional()
  @IsIn(SORTS)
  sort: Sort = '-updated';

  @ApiProperty({ required: false, description: 'Only sounds that were deleted, the latest first.' })
  @IsOptional()
  @Transform(({ value }: { value: unknown }) => (value === 'true' ? true : value === 'false' ? false : value))
  @IsBoolean()
  deleted = false;

  @ApiProperty({ required: false, minimum: 1, maximum: 100 })
  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(1)
  @Max(100)
  limit = 50;

  @ApiProperty({ required: false, description: '`nextCursor` of the page before.' })
  @IsOptional()
  @IsString()
  @MaxLength(400)
  cursor?: string;
}

/** A sound in the list. */
export class SoundSummaryDto {
  @ApiProperty() id!: string;
  @ApiProperty() version!: number;
  @ApiProperty() name!: string;
  @ApiProperty() author!: string;
  @ApiProperty({ type: [String] }) tags!: string[];
  @ApiProperty({ example: 'F minor' }) key!: string;
  @ApiProperty() tempoBpm!: number;
  @ApiProperty({ format: 'date-time' }) updatedAt!: string;
  @ApiProperty({ type: String, format: 'date-time', nullable: true }) deletedAt!: string | null;
}

export class SoundDto {
  @ApiProperty() id!: string;
  @ApiProperty() version!: number;
  @ApiProperty({ format: 'date-time' }) updatedAt!: string;
  @ApiProperty({ type: Object }) document!: SoundDocument;
}

export class SoundListDto {
  @ApiProperty({ type: [SoundSummaryDto] }) items!: SoundSummaryDto[];
  @ApiProperty({ type: String, nullable: true }) nextCursor!: string | null;
}
