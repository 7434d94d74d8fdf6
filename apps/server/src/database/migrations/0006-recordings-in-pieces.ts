import { DataTypes, QueryTypes, type QueryInterface } from 'sequelize';

const PIECE = 1 << 20;

/** The bytes of recordings in pieces of a MB: they come and go without ever being held as a whole. */
export async function up(db: QueryInterface): Promise<void> {
  await db.createTable('asset_pieces', {
    hash: {
      type: DataTypes.CHAR(64),
      primaryKey: true,
      references: { model: 'assets', key: 'hash' },
      onDelete: 'CASCADE',
    },
    place: { type: DataTypes.SMALLINT.UNSIGNED, primaryKey: true },
    bytes: { type: DataTypes.BLOB('medium'), allowNull: false },
  });
  const [{ largest }] = await db.sequelize.query<{ largest: number | null }>(
    'SELECT MAX(size) AS largest FROM assets',
    { type: QueryTypes.SELECT },
  );
  for (let place = 0; place * PIECE < (largest ?? 0); place++)
    await db.sequelize.query(
      `INSERT INTO asset_pieces (hash, place, bytes)
       SELECT hash, ${place}, SUBSTRING(bytes, ${place * PIECE + 1}, ${PIECE}) FROM assets WHERE size > ${place * PIECE}`,
    );
  await db.sequelize.query('ALTER TABLE assets DROP COLUMN bytes');
}

export async function down(db: QueryInterface): Promise<void> {
  await db.addColumn('assets', 'bytes', { type: DataTypes.BLOB('long'), allowNull: true });
  await db.sequelize.query('SET SESSION group_concat_max_len = 67108864');
  await db.sequelize.query(
    "UPDATE assets a SET bytes = (SELECT GROUP_CONCAT(p.bytes ORDER BY p.place SEPARATOR '') FROM asset_pieces p WHERE p.hash = a.hash)",
  );
  await db.dropTable('asset_pieces');
}
