import type { SoundingFile } from '@abyssal/core';
import { Injectable } from '@nestjs/common';
import { KeptStateRow, SoundingRow, SoundRow } from '../database/models.js';
import { Refusal } from '../problem/problem.js';
import type { KeepSoundingDto, SoundingDto } from './sounding.dto.js';

const noOwner = () =>
  new Refusal(404, 'no-such-sound', 'There is no such sound or kept state, or it was deleted.');
const missing = () => new Refusal(404, 'no-sounding', 'Nothing that was measured of this is kept yet.');

@Injectable()
export class SoundingsService {
  async keep(ownerId: string, { measured, content }: KeepSoundingDto): Promise<void> {
    const where = { id: ownerId, deletedAt: null };
    if ((await SoundRow.count({ where })) + (await KeptStateRow.count({ where })) === 0) throw noOwner();
    await SoundingRow.upsert({
      ownerId,
      measured,
      content: JSON.stringify(content),
      measuredAt: new Date(),
    });
  }

  async read(ownerId: string): Promise<SoundingDto> {
    const row = await SoundingRow.findOne({ where: { ownerId } });
    if (!row) throw missing();
    return {
      measured: row.measured,
      content: JSON.parse(row.content) as SoundingFile,
      measuredAt: row.measuredAt.toISOString(),
    };
  }
}
