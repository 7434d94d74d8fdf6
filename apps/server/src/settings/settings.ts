import { Global, Module, type DynamicModule } from '@nestjs/common';

/** What the server is told when it starts. */
export interface ServerSettings {
  /** The built interface; null serves the API alone. */
  readonly web: string | null;
  /** The folder with everything that is kept. */
  readonly data: string;
  /** Most bytes that all recordings together may take. */
  readonly mostRecordingBytes: number;
  /** Why the database is not started again any more; null while it runs or is started again. */
  readonly databaseGivenUp: () => string | null;
}

/** Under which the settings are injected. */
export const SETTINGS = Symbol('settings');

/** Makes the settings known to every part of the server. */
@Global()
@Module({})
export class SettingsModule {
  static using(settings: ServerSettings): DynamicModule {
    const provider = { provide: SETTINGS, useValue: settings };
    return { module: SettingsModule, providers: [provider], exports: [provider] };
  }
}
