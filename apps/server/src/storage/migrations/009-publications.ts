import { DataTypes } from 'sequelize';
import type { Migration } from './migration.ts';

/** Publications, their keys as salted hashes, and what was asked of them by the hour; runs that were made for one. */
export const publications: Migration = {
  name: '009-publications',
  up: async ({ context: queryInterface }) => {
    await queryInterface.createTable('publications', {
      name: { type: DataTypes.TEXT, primaryKey: true },
      pipeline: { type: DataTypes.TEXT, allowNull: false },
      body: { type: DataTypes.TEXT, allowNull: false },
      updatedAt: { type: DataTypes.TEXT, allowNull: false },
      lastFailure: { type: DataTypes.TEXT },
    });
    await queryInterface.createTable('publicationKeys', {
      id: { type: DataTypes.TEXT, primaryKey: true },
      publication: { type: DataTypes.TEXT, allowNull: false },
      name: { type: DataTypes.TEXT, allowNull: false },
      salt: { type: DataTypes.TEXT, allowNull: false },
      hash: { type: DataTypes.TEXT, allowNull: false },
      createdAt: { type: DataTypes.TEXT, allowNull: false },
      lastUsedAt: { type: DataTypes.TEXT },
    });
    await queryInterface.createTable('publicationFigures', {
      publication: { type: DataTypes.TEXT, primaryKey: true },
      hour: { type: DataTypes.TEXT, primaryKey: true },
      figures: { type: DataTypes.TEXT, allowNull: false },
    });
    await queryInterface.addColumn('runs', 'publication', { type: DataTypes.TEXT });
  },
};
