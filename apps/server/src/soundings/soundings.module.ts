import { Module } from '@nestjs/common';
import { SoundingsController } from './soundings.controller.js';
import { SoundingsService } from './soundings.service.js';

@Module({ controllers: [SoundingsController], providers: [SoundingsService] })
export class SoundingsModule {}
