import { createHash } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { AssetRow } from '../database/models.js';
import { Refusal } from '../problem/problem.js';
import type { AssetDto } from './asset.dto.js';
import { decodeWav } from './decode.js';

@Injectable()
export class AssetsService {
  /** Keeps a WAV, once it has been decoded to its end; the same bytes are kept once. */
  async keep(bytes: Buffer): Promise<AssetDto> {
    const found = await decodeWav(bytes);
    if (!found.ok)
      throw new Refusal(415, 'no-wav', `${found.sentence[0].toUpperCase()}${found.sentence.slice(1)}.`);
    const asset: AssetDto = {
      hash: createHash('sha256').update(bytes).digest('hex'),
      size: bytes.length,
      sampleRateHz: found.sampleRateHz,
      channels: found.channels,
      frames: found.frames,
    };
    if ((await AssetRow.count({ where: { hash: asset.hash } })) === 0)
      await AssetRow.create({ ...asset, bytes }, { ignoreDuplicates: true });
    return asset;
  }

  async read(hash: string): Promise<Buffer> {
    const row = await AssetRow.findByPk(hash);
    if (!row) throw new Refusal(404, 'no-such-recording', 'There is no such recording.');
    return row.bytes;
  }
}
