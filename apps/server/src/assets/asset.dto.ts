import { ApiProperty } from '@nestjs/swagger';

/** What is known of a recording that is kept. */
export class AssetDto {
  @ApiProperty({ description: 'SHA-256 of the file.' }) hash!: string;
  @ApiProperty({ description: 'Bytes.' }) size!: number;
  @ApiProperty() sampleRateHz!: number;
  @ApiProperty() channels!: number;
  @ApiProperty() frames!: number;
}
