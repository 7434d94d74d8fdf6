import { randomUUID } from 'node:crypto';
import { migrate, readDocument, type SoundDocument } from '@abyssal/core';
import { Inject, Injectable } from '@nestjs/common';
import { Op, QueryTypes, Sequelize, type Transaction } from 'sequelize';
import { keepUses } from '../database/asset-uses.js';
import { change } from '../database/change.js';
import { changesOf } from '../database/changes.js';
import {
  AssetUseRow,
  KeptStateRow,
  SoundDocumentRow,
  SoundingRow,
  SoundRow,
  SoundWordRow,
} from '../database/models.js';
import { Refusal } from '../problem/problem.js';
import { cursorAfter, listed } from './listing.js';
import type { ListSoundsDto, SoundDto, SoundListDto } from './sound.dto.js';
import { wordsOf } from './words.js';

/** What is listed, searched and sorted by, taken from a document of the present version. */
function columnsOf(document: SoundDocument, words: readonly string[]) {
  return {
    name: document.name,
    author: document.author,
    tags: document.tags.join(', '),
    musicKey: keyOf(document),
    tempoBpm: document.ground.tempoBpm,
    // A space behind the last one too: a word as a whole stands between two.
    words: ` ${words.join(' ')} `,
  };
}

const keyOf = ({ ground }: SoundDocument) => `${ground.key} ${ground.scale}`;
const soundWords = (document: SoundDocument) =>
  wordsOf({
    name: document.name,
    author: document.author,
    tags: document.tags,
    musicKey: keyOf(document),
  });

/** Milliseconds, as they travel: a cursor must meet the very value that is kept. */
const now = () => new Date();

const missing = () => new Refusal(404, 'no-such-sound', 'There is no such sound, or it was deleted.');
const deleted = () =>
  new Refusal(404, 'sound-deleted', 'There is no such sound any more: it was deleted. It can be restored.');

/** Keeps the words that a sound is searched by. */
async function keepWords(
  soundId: string,
  before: readonly string[],
  after: readonly string[],
  transaction: Transaction,
): Promise<void> {
  const { gone, fresh } = changesOf(before, after);
  if (gone.length > 0) await SoundWordRow.destroy({ where: { soundId, word: gone }, transaction });
  if (fresh.length > 0)
    await SoundWordRow.bulkCreate(
      fresh.map((word) => ({ word, soundId })),
      { transaction },
    );
}

@Injectable()
export class SoundsService {
  constructor(@Inject(Sequelize) private readonly sequelize: Sequelize) {}

  async create(given: SoundDocument): Promise<SoundDto> {
    const at = now();
    const id = randomUUID();
    const document = readDocument(given);
    const words = soundWords(document);
    const json = JSON.stringify(document);
    await change(this.sequelize, async (transaction) => {
      await SoundRow.create(
        { id, version: 1, ...columnsOf(document, words), createdAt: at, updatedAt: at },
        { transaction },
      );
      await SoundDocumentRow.create({ soundId: id, document: json }, { transaction });
      await keepWords(id, [], words, transaction);
      await keepUses(id, json, transaction);
    });
    return { id, version: 1, updatedAt: at.toISOString(), document };
  }

  async list({ search, sort, limit, cursor, deleted: only }: ListSoundsDto): Promise<SoundListDto> {
    const listing = { search, sort, limit, cursor: cursor ?? null, deleted: only };
    const rows = await listed(this.sequelize, listing);
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
        deletedAt: row.deletedAt?.toISOString() ?? null,
      })),
      nextCursor: rows.length > limit ? cursorAfter(listing, page[page.length - 1]) : null,
    };
  }

  async read(id: string): Promise<SoundDto> {
    // In one statement, so that version and document belong together.
    const [found] = await this.sequelize.query<
      Pick<SoundRow, 'version' | 'updatedAt' | 'deletedAt'> & { readonly document: string }
    >(
      `SELECT s.version, s.updated_at AS updatedAt, s.deleted_at AS deletedAt, d.document
       FROM sounds s JOIN sound_documents d ON d.sound_id = s.id WHERE s.id = :id`,
      { replacements: { id }, type: QueryTypes.SELECT },
    );
    if (found === undefined) throw missing();
    if (found.deletedAt) throw deleted();
    return {
      id,
      version: found.version,
      updatedAt: found.updatedAt.toISOString(),
      document: migrate(JSON.parse(found.document)) as SoundDocument,
    };
  }

  /**
   * Keeps a later state of a sound, if it still is at the version that the change began from. What it answers
   * is what was sent, not what is read afterwards: someone else may have saved in between.
   */
  async update(id: string, version: number, given: SoundDocument): Promise<SoundDto> {
    const document = readDocument(given);
    const words = soundWords(document);
    const json = JSON.stringify(document);
    const next = { version: version + 1, updatedAt: now() };
    const kept = await change(this.sequelize, async (transaction) => {
      // The row is locked from here on: saves of one sound go one after another.
      const row = await SoundRow.findOne({
        attributes: ['words'],
        where: { id, version, deletedAt: null },
        lock: true,
        transaction,
      });
      if (!row) return false;
      await SoundRow.update({ ...columnsOf(document, words), ...next }, { where: { id }, transaction });
      await SoundDocumentRow.update({ document: json }, { where: { soundId: id }, transaction });
      await keepWords(id, row.words.split(' ').filter(Boolean), words, transaction);
      await keepUses(id, json, transaction);
      return true;
    });
    if (!kept) throw await this.passedBy(id);
    return { id, version: next.version, updatedAt: next.updatedAt.toISOString(), document };
  }

  /** Why a sound was not at the version that a change began from. */
  private async passedBy(id: string): Promise<Refusal> {
    const row = await SoundRow.findOne({ attributes: ['version', 'deletedAt'], where: { id } });
    if (!row) return missing();
    if (row.deletedAt) return deleted();
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

  /** Purges a sound that was deleted: nothing brings it back. */
  async purge(id: string): Promise<void> {
    await change(this.sequelize, async (transaction) => {
      const row = await SoundRow.findOne({
        where: { id, deletedAt: { [Op.ne]: null } },
        lock: true,
        transaction,
      });
      if (!row)
        throw new Refusal(
          404,
          'no-such-sound',
          'There is no such deleted sound; a sound is purged once it has been deleted.',
        );
      await row.destroy({ transaction });
      await SoundDocumentRow.destroy({ where: { soundId: id }, transaction });
      await SoundWordRow.destroy({
        where: { soundId: id, word: row.words.split(' ').filter(Boolean) },
        transaction,
      });
      const states = await KeptStateRow.findAll({ attributes: ['id'], where: { soundId: id }, transaction });
      const owners = [id, ...states.map((state) => state.id)];
      await KeptStateRow.destroy({ where: { soundId: id }, transaction });
      await SoundingRow.destroy({ where: { ownerId: owners }, transaction });
      await AssetUseRow.destroy({ where: { userId: owners }, transaction });
    });
  }
}
