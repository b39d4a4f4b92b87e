import { DataTypes } from 'sequelize';
import type { Migration } from './migration.ts';

/** Collections, their indexes, saved pipelines. Documents have a table for each collection, made with it. */
export const beginning: Migration = {
  name: '001-beginning',
  up: async ({ context: queryInterface }) => {
    await queryInterface.createTable('collections', {
      id: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
      name: { type: DataTypes.TEXT, allowNull: false, unique: true },
      identity: { type: DataTypes.TEXT, allowNull: false },
      count: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 },
      bytes: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 },
      nextPosition: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 },
    });
    await queryInterface.createTable('indexes', {
      id: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
      collectionId: {
        type: DataTypes.INTEGER,
        allowNull: false,
        references: { model: 'collections', key: 'id' },
        onDelete: 'CASCADE',
      },
      name: { type: DataTypes.TEXT, allowNull: false },
      definition: { type: DataTypes.TEXT, allowNull: false },
      createdAt: { type: DataTypes.TEXT, allowNull: false },
      buildMs: { type: DataTypes.REAL },
    });
    await queryInterface.addIndex('indexes', ['collectionId', 'name'], { unique: true });
    await queryInterface.createTable('pipelines', {
      name: { type: DataTypes.TEXT, primaryKey: true },
      pipeline: { type: DataTypes.TEXT, allowNull: false },
      view: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      parameters: { type: DataTypes.TEXT },
      guards: { type: DataTypes.TEXT },
      note: { type: DataTypes.TEXT },
      updatedAt: { type: DataTypes.TEXT, allowNull: false },
    });
  },
};
