import { DataTypes } from 'sequelize';
import type { Migration } from './migration.ts';

/** Runs with their costs and plans; the baseline of a pipeline; how often indexes were of use; settings. */
export const runs: Migration = {
  name: '003-runs',
  up: async ({ context: queryInterface }) => {
    await queryInterface.createTable('runs', {
      id: { type: DataTypes.TEXT, primaryKey: true },
      at: { type: DataTypes.TEXT, allowNull: false },
      pipeline: { type: DataTypes.TEXT, allowNull: false },
      name: { type: DataTypes.TEXT },
      parameters: { type: DataTypes.TEXT },
      collections: { type: DataTypes.TEXT, allowNull: false },
      documentsRead: { type: DataTypes.INTEGER, allowNull: false },
      indexEntriesRead: { type: DataTypes.INTEGER, allowNull: false },
      rowsReturned: { type: DataTypes.INTEGER, allowNull: false },
      memoryBytes: { type: DataTypes.REAL, allowNull: false },
      timeMs: { type: DataTypes.REAL, allowNull: false },
      guard: { type: DataTypes.TEXT },
      indexesUsed: { type: DataTypes.TEXT, allowNull: false },
      explained: { type: DataTypes.TEXT, allowNull: false },
    });
    await queryInterface.addIndex('runs', ['at']);
    await queryInterface.createTable('indexUse', {
      collectionId: { type: DataTypes.INTEGER, allowNull: false, primaryKey: true },
      name: { type: DataTypes.TEXT, allowNull: false, primaryKey: true },
      runs: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 },
      lastUsedAt: { type: DataTypes.TEXT },
    });
    await queryInterface.addColumn('pipelines', 'baseline', { type: DataTypes.TEXT });
    await queryInterface.createTable('settings', {
      name: { type: DataTypes.TEXT, primaryKey: true },
      value: { type: DataTypes.TEXT, allowNull: false },
    });
  },
};
