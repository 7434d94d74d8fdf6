import { Controller, Get, Inject, Res } from '@nestjs/common';
import { ApiOkResponse, ApiProperty, ApiTags } from '@nestjs/swagger';
import type { Response } from 'express';
import { QueryTypes, Sequelize } from 'sequelize';

class HealthDto {
  @ApiProperty({ enum: ['ok', 'database away'] }) status!: 'ok' | 'database away';
}

/** Longest time that a healthy database may take to answer, in ms. */
const PATIENCE_MS = 3000;

@ApiTags('health')
@Controller('api/health')
export class HealthController {
  constructor(@Inject(Sequelize) private readonly sequelize: Sequelize) {}

  @Get()
  @ApiOkResponse({ type: HealthDto })
  async health(@Res({ passthrough: true }) response: Response): Promise<HealthDto> {
    const asked = this.sequelize.query('SELECT 1', { type: QueryTypes.SELECT }).then(
      () => true,
      () => false,
    );
    const late = new Promise<boolean>((resolve) => {
      setTimeout(resolve, PATIENCE_MS, false).unref();
    });
    const answers = await Promise.race([asked, late]);
    response.status(answers ? 200 : 503).setHeader('Cache-Control', 'no-store');
    return { status: answers ? 'ok' : 'database away' };
  }
}
