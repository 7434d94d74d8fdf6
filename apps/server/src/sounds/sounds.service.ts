import { randomUUID } from 'node:crypto';
import { migrate, readDocument, type SoundDocument } from '@abyssal/core';
import { Injectable } from '@nestjs/common';
import { Op } from 'sequelize';
import { SoundRow } from '../database/models.js';
import { Refusal } from '../problem/problem.js';
import { afterCursor, cursorAfter, orderOf, searchOf } from './listing.js';
import type { ListSoundsDto, SoundDto, SoundListDto } from './sound.dto.js';

/** What is searched and sorted by, taken from a document of the present version, as it is kept. */
function searched(document: SoundDocument) {
  return {
    name: document.name,
    author: document.author,
    tags: document.tags.join(', '),
    musicKey: `${document.ground.key} ${document.ground.scale}`,
    tempoBpm: document.ground.tempoBpm,
    document: JSON.stringify(document),
  };
}

/** Milliseconds, as they travel: a cursor must meet the very value that is kept. */
const now = () => new Date();

const toDto = (row: SoundRow): SoundDto => ({
  id: row.id,
  version: row.version,
  updatedAt: row.updatedAt.toISOString(),
  document: migrate(JSON.parse(row.document)) as SoundDocument,
});

const missing = () => new Refusal(404, 'no-such-sound', 'There is no such sound, or it was deleted.');

@Injectable()
export class SoundsService {
  async create(document: SoundDocument): Promise<SoundDto> {
    const at = now();
    return toDto(
      await SoundRow.create({
        id: randomUUID(),
        version: 1,
        ...searched(readDocument(document)),
        createdAt: at,
        updatedAt: at,
      }),
    );
  }

  async list({ search, sort, limit, cursor }: ListSoundsDto): Promise<SoundListDto> {
    const rows = await SoundRow.findAll({
      attributes: { exclude: ['document'] },
      where: {
        [Op.and]: [{ deletedAt: null }, searchOf(search), ...(cursor ? [afterCursor(sort, cursor)] : [])],
      },
      order: orderOf(sort),
      limit: limit + 1,
    });
    const page = rows.slice(0, limit);
    return {
      items: page.map((row) => ({
        id: row.id,
        version: row.version,
        name: row.name,
        author: row.author,
        tags: row.tags === '' ? [] : row.tags.split(', '),
        key: row.musicKey,
        tempoBpm: row.tempoBpm,
        updatedAt: row.updatedAt.toISOString(),
      })),
      nextCursor: rows.length > limit ? cursorAfter(sort, page[page.length - 1]) : null,
    };
  }

  async read(id: string): Promise<SoundDto> {
    const row = await SoundRow.findOne({ where: { id, deletedAt: null } });
    if (!row) throw missing();
    return toDto(row);
  }

  /**
   * Keeps a later state of a sound, if it still is at the version that the change began from. What it answers
   * is what was sent, not what is read afterwards: someone else may have saved in between.
   */
  async update(id: string, version: number, given: SoundDocument): Promise<SoundDto> {
    const document = readDocument(given);
    const next = { version: version + 1, updatedAt: now() };
    const [changed] = await SoundRow.update(
      { ...searched(document), ...next },
      { where: { id, version, deletedAt: null } },
    );
    if (changed === 0) throw await this.passedBy(id);
    return {
      id,
      version: next.version,
      updatedAt: next.updatedAt.toISOString(),
      document,
    };
  }

  /** Why a sound was not at the version that a change began from. */
  private async passedBy(id: string): Promise<Refusal> {
    const row = await SoundRow.findOne({ attributes: ['version'], where: { id, deletedAt: null } });
    if (!row) return missing();
    return new Refusal(
      412,
      'saved-elsewhere',
      'This sound was saved somewhere else in the meantime. Reload it, or keep yours as a copy.',
      { currentVersion: row.version },
    );
  }

  async remove(id: string): Promise<void> {
    const [changed] = await SoundRow.update({ deletedAt: now() }, { where: { id, deletedAt: null } });
    if (changed === 0) throw missing();
  }

  async restore(id: string): Promise<SoundDto> {
    await SoundRow.update({ deletedAt: null }, { where: { id } });
    return this.read(id);
  }
}
