import { Global, Module, type DynamicModule, type OnApplicationShutdown, Inject } from '@nestjs/common';
import { Sequelize } from 'sequelize';

/** The connections to the database, shared by every part of the server. */
@Global()
@Module({})
export class DatabaseModule implements OnApplicationShutdown {
  constructor(@Inject(Sequelize) private readonly sequelize: Sequelize) {}

  static using(sequelize: Sequelize): DynamicModule {
    return {
      module: DatabaseModule,
      providers: [{ provide: Sequelize, useValue: sequelize }],
      exports: [Sequelize],
    };
  }

  async onApplicationShutdown(): Promise<void> {
    await this.sequelize.close();
  }
}
