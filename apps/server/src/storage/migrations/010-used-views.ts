import { DataTypes } from 'sequelize';
import type { Migration } from './migration.ts';

/** Of kept rows: how far they can be relied on, as JSON, where they may lack some; since when they are kept, and how often they were read. */
export const usedViews: Migration = {
  name: '010-used-views',
  up: async ({ context: queryInterface }) => {
    await queryInterface.addColumn('materializedViews', 'approximate', { type: DataTypes.TEXT });
    await queryInterface.addColumn('materializedViews', 'keptAt', { type: DataTypes.TEXT });
    await queryInterface.addColumn('materializedViews', 'uses', { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 });
    await queryInterface.addColumn('materializedViews', 'lastUsedAt', { type: DataTypes.TEXT });
  },
};
