import { DataTypes } from 'sequelize';
import type { Migration } from './migration.ts';

/** Of rows of groups that are kept: what their sums were before they were rounded, as JSON. */
export const wholeSums: Migration = {
  name: '011-whole-sums',
  up: async ({ context: queryInterface }) => {
    await queryInterface.createTable('wholeSums', {
      collectionId: { type: DataTypes.INTEGER, primaryKey: true },
      position: { type: DataTypes.INTEGER, primaryKey: true },
      sums: { type: DataTypes.TEXT, allowNull: false },
    });
  },
};
