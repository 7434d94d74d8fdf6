import {
  Inject,
  Injectable,
  Logger,
  type OnApplicationBootstrap,
  type OnModuleDestroy,
} from '@nestjs/common';
import { Sequelize } from 'sequelize';

const KEPT_DAYS = 30;
const EVERY_MS = 6 * 3_600_000;

/** Purges recordings that no sound and no kept part has used for a month. */
@Injectable()
export class AssetPurge implements OnApplicationBootstrap, OnModuleDestroy {
  private readonly log = new Logger('Recordings');
  private timer: ReturnType<typeof setInterval> | undefined;

  constructor(@Inject(Sequelize) private readonly sequelize: Sequelize) {}

  async onApplicationBootstrap(): Promise<void> {
    await this.purge();
    this.timer = setInterval(() => void this.purge(), EVERY_MS);
  }

  onModuleDestroy(): void {
    clearInterval(this.timer);
  }

  /** Deleted sounds count as users until they are purged: they can be restored. */
  private async purge(): Promise<void> {
    const isUsed = 'EXISTS (SELECT 1 FROM asset_uses u WHERE u.hash = a.hash)';
    try {
      await this.sequelize.query(`UPDATE assets a SET last_used_at = NOW(6) WHERE ${isUsed}`);
      await this.sequelize.query(
        `DELETE a FROM assets a WHERE a.last_used_at < NOW(6) - INTERVAL ${KEPT_DAYS} DAY AND NOT ${isUsed}`,
      );
    } catch (error) {
      // Nothing waits for it: it is tried again in some hours.
      this.log.warn(`unused recordings were not purged: ${(error as Error).message}`);
    }
  }
}
