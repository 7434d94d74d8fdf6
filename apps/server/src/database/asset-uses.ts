import type { Transaction } from 'sequelize';
import { changesOf } from './changes.js';
import { AssetUseRow } from './models.js';

/** Every recording that a document or a part of one names, by hash. */
const assetsIn = (json: string): string[] => [
  ...new Set([...json.matchAll(/"asset":"([0-9a-f]{64})"/g)].map(([, hash]) => hash)),
];

/** Keeps which recordings a sound or a part uses, by what it is as JSON. */
export async function keepUses(userId: string, json: string, transaction: Transaction): Promise<void> {
  const wanted = assetsIn(json);
  const kept = (await AssetUseRow.findAll({ where: { userId }, transaction })).map(({ hash }) => hash);
  const { gone, fresh } = changesOf(kept, wanted);
  if (gone.length > 0) await AssetUseRow.destroy({ where: { userId, hash: gone }, transaction });
  if (fresh.length > 0)
    await AssetUseRow.bulkCreate(
      fresh.map((hash) => ({ hash, userId })),
      { transaction, ignoreDuplicates: true },
    );
}
