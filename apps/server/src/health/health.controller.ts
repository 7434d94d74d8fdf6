import { Controller, Get, HttpStatus, Res, ServiceUnavailableException } from '@nestjs/common';
import { ApiOkResponse, ApiProperty, ApiTags } from '@nestjs/swagger';
import { HealthCheckService } from '@nestjs/terminus';
import type { Response } from 'express';
import { DatabaseIndicator } from './database.indicator.js';

class HealthDto {
  @ApiProperty({ enum: ['ok', 'database away'] }) status!: 'ok' | 'database away';
}

@ApiTags('health')
@Controller('api/health')
export class HealthController {
  constructor(
    private readonly checks: HealthCheckService,
    private readonly database: DatabaseIndicator,
  ) {}

  @Get()
  @ApiOkResponse({ type: HealthDto })
  async health(@Res({ passthrough: true }) response: Response): Promise<HealthDto> {
    response.setHeader('Cache-Control', 'no-store');
    try {
      await this.checks.check([() => this.database.answers()]);
      return { status: 'ok' };
    } catch (error) {
      if (!(error instanceof ServiceUnavailableException)) throw error;
      response.status(HttpStatus.SERVICE_UNAVAILABLE);
      return { status: 'database away' };
    }
  }
}
