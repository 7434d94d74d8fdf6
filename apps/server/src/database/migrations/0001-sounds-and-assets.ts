import { DataTypes, literal, type QueryInterface } from 'sequelize';

/**
 * Sounds with their searched fields beside the document, recordings by hash, and marks of what has been done
 * once.
 */
export async function up(db: QueryInterface): Promise<void> {
  const now = literal('CURRENT_TIMESTAMP(6)');
  await db.createTable('sounds', {
    id: { type: DataTypes.CHAR(36), primaryKey: true },
    version: { type: DataTypes.INTEGER.UNSIGNED, allowNull: false },
    name: { type: DataTypes.STRING(80), allowNull: false },
    author: { type: DataTypes.STRING(80), allowNull: false },
    tags: { type: DataTypes.STRING(400), allowNull: false },
    music_key: { type: DataTypes.STRING(40), allowNull: false },
    tempo_bpm: { type: DataTypes.DOUBLE, allowNull: false },
    document: { type: DataTypes.JSON, allowNull: false },
    created_at: { type: DataTypes.DATE(6), allowNull: false, defaultValue: now },
    updated_at: { type: DataTypes.DATE(6), allowNull: false, defaultValue: now },
    deleted_at: { type: DataTypes.DATE(6), allowNull: true },
  });
  await db.addIndex('sounds', ['deleted_at', 'updated_at', 'id'], { name: 'sounds_by_change' });
  await db.addIndex('sounds', ['deleted_at', 'name', 'id'], { name: 'sounds_by_name' });
  await db.addIndex('sounds', ['deleted_at', 'tempo_bpm', 'id'], { name: 'sounds_by_tempo' });
  await db.createTable('assets', {
    hash: { type: DataTypes.CHAR(64), primaryKey: true },
    bytes: { type: DataTypes.BLOB('long'), allowNull: false },
    size: { type: DataTypes.INTEGER.UNSIGNED, allowNull: false },
    sample_rate_hz: { type: DataTypes.INTEGER.UNSIGNED, allowNull: false },
    channels: { type: DataTypes.TINYINT.UNSIGNED, allowNull: false },
    frames: { type: DataTypes.INTEGER.UNSIGNED, allowNull: false },
    created_at: { type: DataTypes.DATE(6), allowNull: false, defaultValue: now },
  });
  await db.createTable('marks', {
    name: { type: DataTypes.STRING(40), primaryKey: true },
    created_at: { type: DataTypes.DATE(6), allowNull: false, defaultValue: now },
  });
}

export async function down(db: QueryInterface): Promise<void> {
  for (const table of ['marks', 'assets', 'sounds']) await db.dropTable(table);
}
