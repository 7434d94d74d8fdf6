import { Module } from '@nestjs/common';
import { StatesController } from './states.controller.js';
import { StatesService } from './states.service.js';

@Module({ controllers: [StatesController], providers: [StatesService] })
export class StatesModule {}
