import 'reflect-metadata';
import { Module, type DynamicModule } from '@nestjs/common';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { DocumentBuilder, SwaggerModule } from '@nestjs/swagger';
import type { Sequelize } from 'sequelize';
import { AssetsModule } from './assets/assets.module.js';
import { doors } from './doors/doors.js';
import { DatabaseModule } from './database/database.module.js';
import { HealthModule } from './health/health.module.js';
import { ProblemFilter } from './problem/problem.filter.js';
import { validation } from './problem/validation.js';
import { PartsModule } from './parts/parts.module.js';
import { SettingsModule, type ServerSettings } from './settings/settings.js';
import { SoundingsModule } from './soundings/soundings.module.js';
import { SoundsModule } from './sounds/sounds.module.js';
import { StatesModule } from './states/states.module.js';
import { jsonBodies } from './web/read-json.js';
import { roomOn } from './web/room.js';
import { headers, serveWeb } from './web/serve-web.js';

@Module({})
class AppModule {
  static using(sequelize: Sequelize, settings: ServerSettings): DynamicModule {
    return {
      module: AppModule,
      imports: [
        SettingsModule.using(settings),
        DatabaseModule.using(sequelize),
        SoundsModule,
        StatesModule,
        SoundingsModule,
        AssetsModule,
        PartsModule,
        HealthModule,
      ],
    };
  }
}

/** The server as an application, not yet listening. */
export async function createApp(
  sequelize: Sequelize,
  settings: ServerSettings,
): Promise<NestExpressApplication> {
  const app = await NestFactory.create<NestExpressApplication>(AppModule.using(sequelize, settings), {
    bodyParser: false,
    logger: ['error', 'warn'],
  });
  app.use(headers);
  for (const handler of [...doors, roomOn(settings.data), ...jsonBodies]) app.use(handler);
  app.useGlobalPipes(validation());
  app.useGlobalFilters(new ProblemFilter());
  const api = SwaggerModule.createDocument(
    app,
    new DocumentBuilder()
      .setTitle('Abyssal')
      .setDescription('Sounds and recordings. Errors are problem details (RFC 9457).')
      .setVersion('1')
      .build(),
  );
  SwaggerModule.setup('api/docs', app, api, { jsonDocumentUrl: 'api/openapi.json' });
  if (settings.web) serveWeb(app, settings.web);
  app.enableShutdownHooks([]);
  return app;
}
