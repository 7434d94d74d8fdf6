import { isSoundingFile, type SoundingFile } from '@abyssal/core';
import { ApiProperty } from '@nestjs/swagger';
import { Matches, registerDecorator } from 'class-validator';

/** Checks that a field is a sounding as a file has it. */
function IsSounding(): PropertyDecorator {
  return (target, propertyName) => {
    registerDecorator({
      name: 'isSounding',
      target: target.constructor,
      propertyName: String(propertyName),
      validator: {
        validate: (value: unknown) => isSoundingFile(value),
        defaultMessage: () => 'this is no sounding of a version that this program knows',
      },
    });
  };
}

/** What was measured of a sound or a kept state, to be kept. */
export class KeepSoundingDto {
  @ApiProperty({ description: 'SHA-256 of what was measured: the sound without its name, in hexadecimal.' })
  @Matches(/^[0-9a-f]{64}$/, { message: 'measured is a SHA-256 in hexadecimal' })
  measured!: string;

  @ApiProperty({ type: Object, description: 'The sounding, as a file has it.' })
  @IsSounding()
  content!: SoundingFile;
}

export class SoundingDto extends KeepSoundingDto {
  @ApiProperty({ format: 'date-time' }) measuredAt!: string;
}
