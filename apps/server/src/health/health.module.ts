import { Module } from '@nestjs/common';
import { TerminusModule } from '@nestjs/terminus';
import { DatabaseIndicator } from './database.indicator.js';
import { HealthController } from './health.controller.js';

@Module({
  imports: [TerminusModule.forRoot({ logger: false })],
  controllers: [HealthController],
  providers: [DatabaseIndicator],
})
export class HealthModule {}
