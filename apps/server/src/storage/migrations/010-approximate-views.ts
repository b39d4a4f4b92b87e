import { DataTypes } from 'sequelize';
import type { Migration } from './migration.ts';

/** Of kept rows that may lack some which belong to them: how far they can be relied on, as JSON. */
export const approximateViews: Migration = {
  name: '010-approximate-views',
  up: async ({ context: queryInterface }) => {
    await queryInterface.addColumn('materializedViews', 'approximate', { type: DataTypes.TEXT });
  },
};
