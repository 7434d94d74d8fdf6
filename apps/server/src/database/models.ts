import {
  DataTypes,
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';

/** A sound as it is kept: the document as JSON text, and beside it what is searched and sorted by. */
export class SoundRow extends Model<InferAttributes<SoundRow>, InferCreationAttributes<SoundRow>> {
  declare id: string;
  declare version: number;
  declare name: string;
  declare author: string;
  declare tags: string;
  declare musicKey: string;
  declare tempoBpm: number;
  declare document: string;
  declare createdAt: CreationOptional<Date>;
  declare updatedAt: CreationOptional<Date>;
  declare deletedAt: CreationOptional<Date | null>;
}

/** A recording, stored once by the SHA-256 of its bytes. */
export class AssetRow extends Model<InferAttributes<AssetRow>, InferCreationAttributes<AssetRow>> {
  declare hash: string;
  declare bytes: Buffer;
  declare size: number;
  declare sampleRateHz: number;
  declare channels: number;
  declare frames: number;
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
      // Text, not the JSON type: the document goes in and out as it was checked.
      document: { type: DataTypes.TEXT('long'), allowNull: false },
      createdAt: DataTypes.DATE(6),
      updatedAt: DataTypes.DATE(6),
      deletedAt: DataTypes.DATE(6),
    },
    { sequelize, tableName: 'sounds', underscored: true, timestamps: false },
  );
  AssetRow.init(
    {
      hash: { type: DataTypes.CHAR(64), primaryKey: true },
      bytes: { type: DataTypes.BLOB('long'), allowNull: false },
      size: { type: DataTypes.INTEGER, allowNull: false },
      sampleRateHz: { type: DataTypes.INTEGER, allowNull: false },
      channels: { type: DataTypes.INTEGER, allowNull: false },
      frames: { type: DataTypes.INTEGER, allowNull: false },
    },
    { sequelize, tableName: 'assets', underscored: true, timestamps: false },
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
  MarkRow.init(
    { name: { type: DataTypes.STRING(40), primaryKey: true } },
    { sequelize, tableName: 'marks', underscored: true, timestamps: false },
  );
}
