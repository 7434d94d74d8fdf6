import { randomUUID } from 'node:crypto';
import { migratePart } from '@abyssal/core';
import { Inject, Injectable } from '@nestjs/common';
import { Sequelize } from 'sequelize';
import { keepUses } from '../database/asset-uses.js';
import { change } from '../database/change.js';
import { PartRow } from '../database/models.js';
import { Refusal } from '../problem/problem.js';
import type { PartKind } from '@abyssal/core';
import type { KeepPartDto, PartContent, PartDto, PartSummaryDto } from './part.dto.js';

/** Most parts of a kind that are listed. */
const MOST = 200;

const missing = () => new Refusal(404, 'no-such-part', 'There is no such part in the library.');
const summary = ({ id, kind, name, keptAt }: PartRow): PartSummaryDto => ({
  id,
  kind,
  name,
  keptAt: keptAt.toISOString(),
});

@Injectable()
export class PartsService {
  constructor(@Inject(Sequelize) private readonly sequelize: Sequelize) {}

  async keep({ kind, name, content }: KeepPartDto): Promise<PartDto> {
    const json = JSON.stringify(content);
    const row = await change(this.sequelize, async (transaction) => {
      const made = await PartRow.create(
        { id: randomUUID(), kind, name, content: json, keptAt: new Date() },
        { transaction },
      );
      await keepUses(made.id, json, transaction);
      return made;
    });
    return { ...summary(row), content };
  }

  async list(kind: PartKind): Promise<PartSummaryDto[]> {
    const rows = await PartRow.findAll({
      attributes: { exclude: ['content'] },
      where: { kind, deletedAt: null },
      order: [
        ['keptAt', 'DESC'],
        ['id', 'ASC'],
      ],
      limit: MOST,
    });
    return rows.map(summary);
  }

  async read(id: string): Promise<PartDto> {
    const row = await PartRow.findOne({ where: { id, deletedAt: null } });
    if (!row) throw missing();
    return {
      ...summary(row),
      content: migratePart(row.kind as PartKind, JSON.parse(row.content)) as PartContent,
    };
  }

  async remove(id: string): Promise<void> {
    const [changed] = await PartRow.update({ deletedAt: new Date() }, { where: { id, deletedAt: null } });
    if (changed === 0) throw missing();
  }

  async restore(id: string): Promise<PartDto> {
    await PartRow.update({ deletedAt: null }, { where: { id } });
    return this.read(id);
  }
}
