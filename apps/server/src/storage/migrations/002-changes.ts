import { DataTypes } from 'sequelize';
import type { Migration } from './migration.ts';

/** Changes with what they replaced; scratch collections; notes on fields; the expected form; charts of pipelines. */
export const changes: Migration = {
  name: '002-changes',
  up: async ({ context: queryInterface }) => {
    await queryInterface.createTable('changes', {
      id: { type: DataTypes.TEXT, primaryKey: true },
      collectionId: { type: DataTypes.INTEGER, allowNull: false },
      collection: { type: DataTypes.TEXT, allowNull: false },
      change: { type: DataTypes.TEXT, allowNull: false },
      parameters: { type: DataTypes.TEXT },
      madeAt: { type: DataTypes.TEXT, allowNull: false },
      matched: { type: DataTypes.INTEGER, allowNull: false },
      changed: { type: DataTypes.INTEGER, allowNull: false },
      bytes: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 },
      kept: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: true },
      undoneAt: { type: DataTypes.TEXT },
    });
    await queryInterface.createTable('changedDocuments', {
      changeId: {
        type: DataTypes.TEXT,
        allowNull: false,
        primaryKey: true,
        references: { model: 'changes', key: 'id' },
        onDelete: 'CASCADE',
      },
      position: { type: DataTypes.INTEGER, allowNull: false, primaryKey: true },
      identity: { type: DataTypes.TEXT, allowNull: false },
      before: { type: DataTypes.TEXT },
      after: { type: DataTypes.TEXT },
    });
    await queryInterface.addColumn('collections', 'scratch', { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false });
    await queryInterface.addColumn('collections', 'schema', { type: DataTypes.TEXT });
    await queryInterface.addColumn('collections', 'schemaMode', { type: DataTypes.TEXT, allowNull: false, defaultValue: 'off' });
    await queryInterface.createTable('fieldNotes', {
      collectionId: {
        type: DataTypes.INTEGER,
        allowNull: false,
        primaryKey: true,
        references: { model: 'collections', key: 'id' },
        onDelete: 'CASCADE',
      },
      path: { type: DataTypes.TEXT, allowNull: false, primaryKey: true },
      note: { type: DataTypes.TEXT, allowNull: false, defaultValue: '' },
      unit: { type: DataTypes.TEXT, allowNull: false, defaultValue: '' },
    });
    await queryInterface.addColumn('pipelines', 'chart', { type: DataTypes.TEXT });
  },
};
