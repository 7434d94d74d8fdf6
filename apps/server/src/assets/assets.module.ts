import {
  Module,
  RequestMethod,
  type MiddlewareConsumer,
  type NestModule,
  type OnModuleDestroy,
} from '@nestjs/common';
import { AssetsController } from './assets.controller.js';
import { AssetsService } from './assets.service.js';
import { endDecoding } from './decode.js';
import { takeUpload } from './take-upload.js';

@Module({ controllers: [AssetsController], providers: [AssetsService] })
export class AssetsModule implements NestModule, OnModuleDestroy {
  configure(consumer: MiddlewareConsumer): void {
    consumer.apply(takeUpload).forRoutes({ path: 'api/assets', method: RequestMethod.POST });
  }

  async onModuleDestroy(): Promise<void> {
    await endDecoding();
  }
}
