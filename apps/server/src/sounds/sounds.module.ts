import { Module } from '@nestjs/common';
import { SoundsController } from './sounds.controller.js';
import { SoundsService } from './sounds.service.js';

@Module({ controllers: [SoundsController], providers: [SoundsService], exports: [SoundsService] })
export class SoundsModule {}
