import { createHash } from 'node:crypto';
import { explainError, readWav } from '@abyssal/core';
import { Injectable } from '@nestjs/common';
import { AssetRow } from '../database/models.js';
import { Problem } from '../problem/problem.js';
import type { AssetDto } from './asset.dto.js';

@Injectable()
export class AssetsService {
  /** Keeps a WAV, once it has been decoded to its end; the same bytes are kept once. */
  async keep(bytes: Buffer): Promise<AssetDto> {
    let wav: ReturnType<typeof readWav>;
    try {
      wav = readWav(bytes);
    } catch (error) {
      const sentence = explainError(error);
      if (sentence === null) throw error;
      throw new Problem(415, 'no-wav', `${sentence[0].toUpperCase()}${sentence.slice(1)}.`);
    }
    const asset: AssetDto = {
      hash: createHash('sha256').update(bytes).digest('hex'), size: bytes.length,
      sampleRateHz: wav.sampleRateHz, channels: wav.channels.length, frames: wav.channels[0].length,
    };
    if ((await AssetRow.count({ where: { hash: asset.hash } })) === 0) await AssetRow.create({ ...asset, bytes }, { ignoreDuplicates: true });
    return asset;
  }

  async read(hash: string): Promise<Buffer> {
    const row = await AssetRow.findByPk(hash);
    if (!row) throw new Problem(404, 'no-such-recording', 'There is no such recording.');
    return row.bytes;
  }
}
