import { DataTypes, literal, QueryTypes, type QueryInterface } from 'sequelize';

const PAGE = 200;

const hashesIn = (text: string) => [
  ...new Set([...text.matchAll(/"asset":\s*"([0-9a-f]{64})"/g)].map(([, hash]) => hash)),
];

/** Which recordings sounds and parts use, so that what nothing uses any more can be told. */
export async function up(db: QueryInterface): Promise<void> {
  await db.createTable('asset_uses', {
    hash: { type: 'CHAR(64) CHARACTER SET ascii COLLATE ascii_bin', primaryKey: true },
    /** A sound or a part. */
    user_id: { type: 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin', primaryKey: true },
  });
  await db.addIndex('asset_uses', ['user_id', 'hash'], { name: 'uses_of_user' });
  await db.addColumn('assets', 'last_used_at', {
    type: DataTypes.DATE(6),
    allowNull: false,
    defaultValue: literal('CURRENT_TIMESTAMP(6)'),
  });
  for (const select of [
    'SELECT sound_id AS id, document AS text FROM sound_documents WHERE sound_id',
    'SELECT id, content AS text FROM parts WHERE id',
  ])
    for (let after = ''; ;) {
      const page: { id: string; text: string }[] = await db.sequelize.query(
        `${select} > :after ORDER BY 1 LIMIT ${PAGE}`,
        { replacements: { after }, type: QueryTypes.SELECT },
      );
      if (page.length === 0) break;
      const uses = page.flatMap(({ id, text }) => hashesIn(text).map((hash) => ({ hash, user_id: id })));
      if (uses.length > 0) await db.bulkInsert('asset_uses', uses);
      after = page[page.length - 1].id;
    }
}

export async function down(db: QueryInterface): Promise<void> {
  await db.sequelize.query('ALTER TABLE assets DROP COLUMN last_used_at');
  await db.dropTable('asset_uses');
}
