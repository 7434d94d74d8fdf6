import { Module, type OnModuleDestroy } from '@nestjs/common';
import { AssetsController } from './assets.controller.js';
import { AssetsService } from './assets.service.js';
import { endDecoding } from './decode.js';
import { AssetPurge } from './purge.js';
import { Uploads } from './uploads.js';

@Module({ controllers: [AssetsController], providers: [AssetsService, AssetPurge, Uploads] })
export class AssetsModule implements OnModuleDestroy {
  async onModuleDestroy(): Promise<void> {
    await endDecoding();
  }
}
