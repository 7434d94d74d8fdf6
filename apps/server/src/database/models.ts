import {
  DataTypes,
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';

/** What a sound is listed, searched and sorted by; its document stands beside it, so that this row is narrow. */
export class SoundRow extends Model<InferAttributes<SoundRow>, InferCreationAttributes<SoundRow>> {
  declare id: string;
  declare version: number;
  declare name: string;
  declare author: string;
  declare tags: string;
  declare musicKey: string;
  declare tempoBpm: number;
  /** Every word that it is searched by, each behind a space. */
  declare words: string;
  declare createdAt: CreationOptional<Date>;
  declare updatedAt: CreationOptional<Date>;
  declare deletedAt: CreationOptional<Date | null>;
}

/** The document of a sound as JSON text. */
export class SoundDocumentRow extends Model<
  InferAttributes<SoundDocumentRow>,
  InferCreationAttributes<SoundDocumentRow>
> {
  declare soundId: string;
  declare document: string;
}

/** A recording, kept once by the SHA-256 of its bytes, which are in pieces. */
export class AssetRow extends Model<InferAttributes<AssetRow>, InferCreationAttributes<AssetRow>> {
  declare hash: string;
  declare size: number;
  declare sampleRateHz: number;
  declare channels: number;
  declare frames: number;
  declare lastUsedAt: CreationOptional<Date>;
}

/** A stretch of a recording's bytes. */
export class AssetPieceRow extends Model<
  InferAttributes<AssetPieceRow>,
  InferCreationAttributes<AssetPieceRow>
> {
  declare hash: string;
  declare place: number;
  declare bytes: Buffer;
}

/** A word that a sound is searched by. */
export class SoundWordRow extends Model<
  InferAttributes<SoundWordRow>,
  InferCreationAttributes<SoundWordRow>
> {
  declare word: string;
  declare soundId: string;
}

/** That a sound or a part uses a recording. */
export class AssetUseRow extends Model<InferAttributes<AssetUseRow>, InferCreationAttributes<AssetUseRow>> {
  declare hash: string;
  declare userId: string;
}

/** A part of a sound that was kept to be used in others: its content as JSON text. */
export class PartRow extends Model<InferAttributes<PartRow>, InferCreationAttributes<PartRow>> {
  declare id: string;
  declare kind: string;
  declare name: string;
  declare content: string;
  declare keptAt: Date;
  declare deletedAt: CreationOptional<Date | null>;
}

/** A state of a sound that was kept under a name, its document as JSON text. */
export class KeptStateRow extends Model<
  InferAttributes<KeptStateRow>,
  InferCreationAttributes<KeptStateRow>
> {
  declare id: string;
  declare soundId: string;
  declare name: string;
  declare document: string;
  declare keptAt: Date;
  declare deletedAt: CreationOptional<Date | null>;
}

/** What was measured of a sound or a kept state, as JSON text, and the hash of what was measured. */
export class SoundingRow extends Model<InferAttributes<SoundingRow>, InferCreationAttributes<SoundingRow>> {
  declare ownerId: string;
  declare measured: string;
  declare content: string;
  declare measuredAt: Date;
}

/** Something that is done once in the life of a database. */
export class MarkRow extends Model<InferAttributes<MarkRow>, InferCreationAttributes<MarkRow>> {
  declare name: string;
}

export function defineModels(sequelize: Sequelize): void {
  SoundRow.init(
    {
      id: { type: DataTypes.CHAR(36), primaryKey: true },
      version: { type: DataTypes.INTEGER, allowNull: false },
      name: { type: DataTypes.STRING(80), allowNull: false },
      author: { type: DataTypes.STRING(80), allowNull: false },
      tags: { type: DataTypes.STRING(400), allowNull: false },
      musicKey: { type: DataTypes.STRING(40), allowNull: false },
      tempoBpm: { type: DataTypes.DOUBLE, allowNull: false },
      words: { type: DataTypes.STRING(8000), allowNull: false },
      createdAt: DataTypes.DATE(6),
      updatedAt: DataTypes.DATE(6),
      deletedAt: DataTypes.DATE(6),
    },
    { sequelize, tableName: 'sounds', underscored: true, timestamps: false },
  );
  SoundDocumentRow.init(
    {
      soundId: { type: DataTypes.CHAR(36), primaryKey: true },
      // Text, not the JSON type: the document goes in and out as it was checked.
      document: { type: DataTypes.TEXT('long'), allowNull: false },
    },
    { sequelize, tableName: 'sound_documents', underscored: true, timestamps: false },
  );
  AssetRow.init(
    {
      hash: { type: DataTypes.CHAR(64), primaryKey: true },
      size: { type: DataTypes.INTEGER, allowNull: false },
      sampleRateHz: { type: DataTypes.INTEGER, allowNull: false },
      channels: { type: DataTypes.INTEGER, allowNull: false },
      frames: { type: DataTypes.INTEGER, allowNull: false },
      lastUsedAt: { type: DataTypes.DATE(6), allowNull: false },
    },
    { sequelize, tableName: 'assets', underscored: true, timestamps: false },
  );
  AssetPieceRow.init(
    {
      hash: { type: DataTypes.CHAR(64), primaryKey: true },
      place: { type: DataTypes.SMALLINT, primaryKey: true },
      bytes: { type: DataTypes.BLOB('medium'), allowNull: false },
    },
    { sequelize, tableName: 'asset_pieces', underscored: true, timestamps: false },
  );
  SoundWordRow.init(
    {
      word: { type: DataTypes.STRING(80), primaryKey: true },
      soundId: { type: DataTypes.CHAR(36), primaryKey: true },
    },
    { sequelize, tableName: 'sound_words', underscored: true, timestamps: false },
  );
  AssetUseRow.init(
    {
      hash: { type: DataTypes.CHAR(64), primaryKey: true },
      userId: { type: DataTypes.CHAR(36), primaryKey: true },
    },
    { sequelize, tableName: 'asset_uses', underscored: true, timestamps: false },
  );
  PartRow.init(
    {
      id: { type: DataTypes.CHAR(36), primaryKey: true },
      kind: { type: DataTypes.STRING(20), allowNull: false },
      name: { type: DataTypes.STRING(80), allowNull: false },
      content: { type: DataTypes.TEXT('long'), allowNull: false },
      keptAt: { type: DataTypes.DATE(6), allowNull: false },
      deletedAt: DataTypes.DATE(6),
    },
    { sequelize, tableName: 'parts', underscored: true, timestamps: false },
  );
  KeptStateRow.init(
    {
      id: { type: DataTypes.CHAR(36), primaryKey: true },
      soundId: { type: DataTypes.CHAR(36), allowNull: false },
      name: { type: DataTypes.STRING(80), allowNull: false },
      document: { type: DataTypes.TEXT('long'), allowNull: false },
      keptAt: { type: DataTypes.DATE(6), allowNull: false },
      deletedAt: DataTypes.DATE(6),
    },
    { sequelize, tableName: 'kept_states', underscored: true, timestamps: false },
  );
  SoundingRow.init(
    {
      ownerId: { type: DataTypes.CHAR(36), primaryKey: true },
      measured: { type: DataTypes.CHAR(64), allowNull: false },
      content: { type: DataTypes.TEXT('long'), allowNull: false },
      measuredAt: { type: DataTypes.DATE(6), allowNull: false },
    },
    { sequelize, tableName: 'soundings', underscored: true, timestamps: false },
  );
  MarkRow.init(
    { name: { type: DataTypes.STRING(40), primaryKey: true } },
    { sequelize, tableName: 'marks', underscored: true, timestamps: false },
  );
}
