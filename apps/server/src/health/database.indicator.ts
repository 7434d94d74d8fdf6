import { Inject, Injectable } from '@nestjs/common';
import { HealthIndicatorService, type HealthIndicatorResult } from '@nestjs/terminus';
import { QueryTypes, Sequelize } from 'sequelize';

/** Longest time that a healthy database may take to answer, in ms. */
const PATIENCE_MS = 3000;

/** Whether the database answers a query within a few seconds. */
@Injectable()
export class DatabaseIndicator {
  constructor(
    @Inject(Sequelize) private readonly sequelize: Sequelize,
    private readonly indicators: HealthIndicatorService,
  ) {}

  async answers(): Promise<HealthIndicatorResult> {
    const asked = this.sequelize.query('SELECT 1', { type: QueryTypes.SELECT }).then(
      () => true,
      () => false,
    );
    const late = new Promise<boolean>((resolve) => {
      setTimeout(resolve, PATIENCE_MS, false).unref();
    });
    const indicator = this.indicators.check('database');
    return (await Promise.race([asked, late])) ? indicator.up() : indicator.down();
  }
}
