import { randomUUID } from 'node:crypto';
import { migrate, readDocument, type SoundDocument, type SoundingFile } from '@abyssal/core';
import { Inject, Injectable } from '@nestjs/common';
import { Sequelize } from 'sequelize';
import { keepUses } from '../database/asset-uses.js';
import { change } from '../database/change.js';
import { KeptStateRow, SoundingRow, SoundRow } from '../database/models.js';
import { Refusal } from '../problem/problem.js';
import type { KeepStateDto, StateDto, StateFigureDto, StateSummaryDto } from './state.dto.js';

/** Most states that are kept of a sound. */
export const MOST_STATES = 50;

const missing = () => new Refusal(404, 'no-such-state', 'There is no such kept state of the sound.');
const noSound = () => new Refusal(404, 'no-such-sound', 'There is no such sound, or it was deleted.');
const tooMany = () =>
  new Refusal(
    409,
    'too-many-states',
    `A sound keeps up to ${MOST_STATES} states; remove one that is no longer wanted.`,
  );
/** Figures of a kept sounding that a list of states shows. */
const figuresOf = (sounding: SoundingRow | undefined): StateFigureDto[] =>
  sounding
    ? (JSON.parse(sounding.content) as SoundingFile).figures.map(
        ({ id, label, unit, value, outOf, verdict }) => ({ id, label, unit, value, outOf, verdict }),
      )
    : [];

const summary = ({ id, name, keptAt }: KeptStateRow, sounding?: SoundingRow): StateSummaryDto => ({
  id,
  name,
  keptAt: keptAt.toISOString(),
  figures: figuresOf(sounding),
});

@Injectable()
export class StatesService {
  constructor(@Inject(Sequelize) private readonly sequelize: Sequelize) {}

  async keep(soundId: string, { name, document }: KeepStateDto): Promise<StateDto> {
    const json = JSON.stringify(readDocument(document));
    const row = await change(this.sequelize, async (transaction) => {
      // The sound is locked, so that two that keep at once are counted one after the other.
      const sound = await SoundRow.findOne({
        attributes: ['id'],
        where: { id: soundId, deletedAt: null },
        lock: true,
        transaction,
      });
      if (!sound) throw noSound();
      const kept = await KeptStateRow.count({ where: { soundId, deletedAt: null }, transaction });
      if (kept >= MOST_STATES) throw tooMany();
      const made = await KeptStateRow.create(
        { id: randomUUID(), soundId, name, document: json, keptAt: new Date() },
        { transaction },
      );
      await keepUses(made.id, json, transaction);
      return made;
    });
    return { ...summary(row), document: JSON.parse(json) as SoundDocument };
  }

  async list(soundId: string): Promise<StateSummaryDto[]> {
    const rows = await KeptStateRow.findAll({
      attributes: { exclude: ['document'] },
      where: { soundId, deletedAt: null },
      order: [
        ['keptAt', 'DESC'],
        ['id', 'ASC'],
      ],
    });
    const soundings = await SoundingRow.findAll({ where: { ownerId: rows.map(({ id }) => id) } });
    const byOwner = new Map(soundings.map((sounding) => [sounding.ownerId, sounding]));
    return rows.map((row) => summary(row, byOwner.get(row.id)));
  }

  async read(soundId: string, id: string): Promise<StateDto> {
    const row = await KeptStateRow.findOne({ where: { id, soundId, deletedAt: null } });
    if (!row) throw missing();
    return { ...summary(row), document: migrate(JSON.parse(row.document)) as SoundDocument };
  }

  async remove(soundId: string, id: string): Promise<void> {
    const [changed] = await KeptStateRow.update(
      { deletedAt: new Date() },
      { where: { id, soundId, deletedAt: null } },
    );
    if (changed === 0) throw missing();
  }

  async restore(soundId: string, id: string): Promise<StateDto> {
    const kept = await KeptStateRow.count({ where: { soundId, deletedAt: null } });
    if (kept >= MOST_STATES) throw tooMany();
    await KeptStateRow.update({ deletedAt: null }, { where: { id, soundId } });
    return this.read(soundId, id);
  }
}
