import { DataTypes, type QueryInterface } from 'sequelize';

/** A part that was deleted can be brought back, as a sound can. */
export async function up(db: QueryInterface): Promise<void> {
  await db.addColumn('parts', 'deleted_at', { type: DataTypes.DATE(6), allowNull: true });
}

export async function down(db: QueryInterface): Promise<void> {
  await db.removeColumn('parts', 'deleted_at');
}
