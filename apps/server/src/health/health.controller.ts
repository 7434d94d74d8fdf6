import { Controller, Get, HttpStatus, Inject, Res, ServiceUnavailableException } from '@nestjs/common';
import { ApiOkResponse, ApiProperty, ApiTags } from '@nestjs/swagger';
import { HealthCheckService } from '@nestjs/terminus';
import type { Response } from 'express';
import { SETTINGS, type ServerSettings } from '../settings/settings.js';
import { DatabaseIndicator } from './database.indicator.js';

class HealthDto {
  @ApiProperty({ enum: ['ok', 'database away', 'database given up'] })
  status!: 'ok' | 'database away' | 'database given up';
  @ApiProperty({ required: false, description: 'Why the database is not started again any more.' })
  reason?: string;
}

@ApiTags('health')
@Controller('api/health')
export class HealthController {
  constructor(
    private readonly checks: HealthCheckService,
    private readonly database: DatabaseIndicator,
    @Inject(SETTINGS) private readonly settings: ServerSettings,
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
      const reason = this.settings.databaseGivenUp();
      return reason ? { status: 'database given up', reason } : { status: 'database away' };
    }
  }
}
