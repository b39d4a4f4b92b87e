import { DataTypes } from 'sequelize';
import type { Migration } from './migration.ts';

/** What was measured of an index last, as JSON: how many of the true best it finds for an effort. */
export const recall: Migration = {
  name: '007-recall',
  up: async ({ context: queryInterface }) => {
    await queryInterface.addColumn('indexes', 'recall', { type: DataTypes.TEXT });
  },
};
