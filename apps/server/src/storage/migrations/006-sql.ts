import { DataTypes } from 'sequelize';
import type { Migration } from './migration.ts';

/** The SQL in which a run was asked and a pipeline was saved; none where it was the notation. */
export const sql: Migration = {
  name: '006-sql',
  up: async ({ context: queryInterface }) => {
    await queryInterface.addColumn('runs', 'sql', { type: DataTypes.TEXT });
    await queryInterface.addColumn('pipelines', 'sql', { type: DataTypes.TEXT });
  },
};
