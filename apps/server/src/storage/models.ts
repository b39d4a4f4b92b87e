import {
  DataTypes,
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type ModelStatic,
  type Sequelize,
} from 'sequelize';

interface CollectionRow extends Model<InferAttributes<CollectionRow>, InferCreationAttributes<CollectionRow>> {
  id: CreationOptional<number>;
  name: string;
  identity: string;
  count: CreationOptional<number>;
  bytes: CreationOptional<number>;
  nextPosition: CreationOptional<number>;
  scratch: CreationOptional<boolean>;
  schema: CreationOptional<string | null>;
  schemaMode: CreationOptional<string>;
  checkedAt: CreationOptional<string | null>;
  checkReport: CreationOptional<string | null>;
}
interface IndexRow extends Model<InferAttributes<IndexRow>, InferCreationAttributes<IndexRow>> {
  id: CreationOptional<number>;
  collectionId: number;
  name: string;
  definition: string;
  createdAt: string;
  buildMs: number | null;
}
interface PipelineRow extends Model<InferAttributes<PipelineRow>, InferCreationAttributes<PipelineRow>> {
  name: string;
  pipeline: string;
  view: boolean;
  parameters: string | null;
  guards: string | null;
  note: string | null;
  updatedAt: string;
  chart: string | null;
  sql: CreationOptional<string | null>;
}

export interface Models {
  readonly collections: ModelStatic<CollectionRow>;
  readonly indexes: ModelStatic<IndexRow>;
  readonly pipelines: ModelStatic<PipelineRow>;
}

/** The tables that Sequelize reads and writes. */
export function defineModels(sequelize: Sequelize): Models {
  const id = { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true };
  const plain = { timestamps: false, freezeTableName: true };
  return {
    collections: sequelize.define<CollectionRow>(
      'collections',
      {
        id,
        name: DataTypes.TEXT,
        identity: DataTypes.TEXT,
        count: DataTypes.INTEGER,
        bytes: DataTypes.INTEGER,
        nextPosition: DataTypes.INTEGER,
        scratch: DataTypes.BOOLEAN,
        schema: DataTypes.TEXT,
        schemaMode: DataTypes.TEXT,
        checkedAt: DataTypes.TEXT,
        checkReport: DataTypes.TEXT,
      },
      plain,
    ),
    indexes: sequelize.define<IndexRow>(
      'indexes',
      {
        id,
        collectionId: DataTypes.INTEGER,
        name: DataTypes.TEXT,
        definition: DataTypes.TEXT,
        createdAt: DataTypes.TEXT,
        buildMs: DataTypes.REAL,
      },
      plain,
    ),
    pipelines: sequelize.define<PipelineRow>(
      'pipelines',
      {
        name: { type: DataTypes.TEXT, primaryKey: true },
        pipeline: DataTypes.TEXT,
        view: DataTypes.BOOLEAN,
        parameters: DataTypes.TEXT,
        guards: DataTypes.TEXT,
        note: DataTypes.TEXT,
        updatedAt: DataTypes.TEXT,
        chart: DataTypes.TEXT,
        sql: DataTypes.TEXT,
      },
      plain,
    ),
  };
}
