import { DataTypes } from 'sequelize';
import type { Migration } from './migration.ts';

/** When the indexes of a collection were last held against its documents, and what was found. None for those from before. */
export const checks: Migration = {
  name: '004-checks',
  up: async ({ context: queryInterface }) => {
    await queryInterface.addColumn('collections', 'checkedAt', { type: DataTypes.TEXT });
    await queryInterface.addColumn('collections', 'checkReport', { type: DataTypes.TEXT });
  },
};
