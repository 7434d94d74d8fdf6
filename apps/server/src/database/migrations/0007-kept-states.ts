import { DataTypes, type QueryInterface } from 'sequelize';

const ID = 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin';
const HASH = 'CHAR(64) CHARACTER SET ascii COLLATE ascii_bin';

/** States of sounds that were kept under a name, and what was measured of them and of the sounds. */
export async function up(db: QueryInterface): Promise<void> {
  await db.createTable('kept_states', {
    id: { type: ID, primaryKey: true },
    sound_id: { type: ID, allowNull: false },
    name: { type: DataTypes.STRING(80), allowNull: false },
    document: { type: DataTypes.TEXT('long'), allowNull: false },
    kept_at: { type: DataTypes.DATE(6), allowNull: false },
    deleted_at: { type: DataTypes.DATE(6), allowNull: true },
  });
  await db.addIndex('kept_states', ['sound_id', 'deleted_at', 'kept_at'], { name: 'states_of_sound' });
  await db.createTable('soundings', {
    /** A sound or a kept state. */
    owner_id: { type: ID, primaryKey: true },
    measured: { type: HASH, allowNull: false },
    content: { type: DataTypes.TEXT('long'), allowNull: false },
    measured_at: { type: DataTypes.DATE(6), allowNull: false },
  });
}

export async function down(db: QueryInterface): Promise<void> {
  await db.dropTable('soundings');
  await db.dropTable('kept_states');
}
