import { DataTypes, literal, type QueryInterface } from 'sequelize';

/** Parts of sounds that were kept to be used in other sounds: layers. */
export async function up(db: QueryInterface): Promise<void> {
  await db.createTable('parts', {
    id: { type: DataTypes.CHAR(36), primaryKey: true },
    kind: { type: DataTypes.STRING(20), allowNull: false },
    name: { type: DataTypes.STRING(80), allowNull: false },
    content: { type: DataTypes.JSON, allowNull: false },
    kept_at: { type: DataTypes.DATE(6), allowNull: false, defaultValue: literal('CURRENT_TIMESTAMP(6)') },
  });
  await db.addIndex('parts', ['kind', 'kept_at', 'id'], { name: 'parts_by_kind' });
}

export async function down(db: QueryInterface): Promise<void> {
  await db.dropTable('parts');
}
