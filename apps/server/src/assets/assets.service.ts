import { open } from 'node:fs/promises';
import { Inject, Injectable } from '@nestjs/common';
import pLimit from 'p-limit';
import { Sequelize } from 'sequelize';
import { change } from '../database/change.js';
import { AssetPieceRow, AssetRow } from '../database/models.js';
import { Refusal } from '../problem/problem.js';
import { SETTINGS, type ServerSettings } from '../settings/settings.js';
import type { AssetDto } from './asset.dto.js';
import { decodeWav } from './decode.js';
import type { Received } from './receive.js';

/** Bytes of a recording that are held at once. */
const PIECE = 1 << 20;

/** Recordings that are written at once: the other connections to the database are for everything else. */
const WRITTEN_AT_ONCE = 2;

/** A recording that is read piece by piece. */
export interface AssetBytes {
  readonly size: number;
  readonly pieces: AsyncIterable<Buffer>;
}

async function* piecesOfFile(path: string): AsyncGenerator<Buffer> {
  const file = await open(path);
  try {
    for (;;) {
      const { bytesRead, buffer } = await file.read(Buffer.alloc(PIECE), 0, PIECE);
      if (bytesRead === 0) return;
      yield buffer.subarray(0, bytesRead);
    }
  } finally {
    await file.close();
  }
}

async function* keptPieces(hash: string, size: number): AsyncGenerator<Buffer> {
  for (let place = 0; place * PIECE < size; place++) {
    const piece = await AssetPieceRow.findOne({ where: { hash, place } });
    // Purged while it was being read: the answer breaks off, so that nobody takes it for whole.
    if (!piece) throw new Error(`piece ${place} of recording ${hash} is gone`);
    yield piece.bytes;
  }
}

@Injectable()
export class AssetsService {
  private readonly writing = pLimit(WRITTEN_AT_ONCE);

  constructor(
    @Inject(Sequelize) private readonly sequelize: Sequelize,
    @Inject(SETTINGS) private readonly settings: ServerSettings,
  ) {}

  /** Keeps a WAV, once it has been decoded to its end; the same bytes are kept once. */
  async keep({ path, hash, size }: Received): Promise<AssetDto> {
    const found = await decodeWav(path);
    if (!found.ok)
      throw new Refusal(415, 'no-wav', `${found.sentence[0].toUpperCase()}${found.sentence.slice(1)}.`);
    const { sampleRateHz, channels, frames } = found;
    const asset: AssetDto = { hash, size, sampleRateHz, channels, frames };
    const [known] = await AssetRow.update({ lastUsedAt: new Date() }, { where: { hash } });
    if (known > 0) return asset;
    await this.writing(async () => {
      await this.refuseWhereFull(size);
      await this.write(asset, path);
    });
    return asset;
  }

  private write(asset: AssetDto, path: string): Promise<void> {
    return change(this.sequelize, async (transaction) => {
      const options = { transaction, ignoreDuplicates: true };
      await AssetRow.create({ ...asset, lastUsedAt: new Date() }, options);
      let place = 0;
      for await (const bytes of piecesOfFile(path))
        await AssetPieceRow.create({ hash: asset.hash, place: place++, bytes }, options);
    });
  }

  private async refuseWhereFull(size: number): Promise<void> {
    const most = this.settings.mostRecordingBytes;
    const kept = Number((await AssetRow.sum('size')) ?? 0);
    if (kept + size > most)
      throw new Refusal(
        507,
        'recordings-full',
        `The recordings of all sounds fill the ${most / 1e9} GB they may take: purge sounds you no longer need, or start with a higher --recordings-gb.`,
      );
  }

  async read(hash: string): Promise<AssetBytes> {
    const row = await AssetRow.findByPk(hash);
    if (!row) throw new Refusal(404, 'no-such-recording', 'There is no such recording.');
    return { size: row.size, pieces: keptPieces(hash, row.size) };
  }
}
