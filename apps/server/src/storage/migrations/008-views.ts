import { DataTypes } from 'sequelize';
import type { Migration } from './migration.ts';

/**
 * Materialized views: what each was made of and when; its rows lie in a collection of their own. A collection's version goes up with
 * every write, since every write tells how many documents and bytes there are now.
 */
export const views: Migration = {
  name: '008-views',
  up: async ({ context: queryInterface }) => {
    await queryInterface.addColumn('collections', 'version', { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 });
    await queryInterface.createTable('materializedViews', {
      name: { type: DataTypes.TEXT, primaryKey: true },
      collectionId: { type: DataTypes.INTEGER, allowNull: false },
      refresh: { type: DataTypes.TEXT, allowNull: false },
      text: { type: DataTypes.TEXT },
      madeOf: { type: DataTypes.TEXT },
      refreshedAt: { type: DataTypes.TEXT },
      refreshMs: { type: DataTypes.REAL },
      failure: { type: DataTypes.TEXT },
      notes: { type: DataTypes.TEXT },
      saved: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 },
    });
    await queryInterface.sequelize.query(
      `CREATE TRIGGER collections_version AFTER UPDATE OF count, bytes, nextPosition ON collections
       BEGIN UPDATE collections SET version = version + 1 WHERE id = NEW.id; END`,
    );
  },
};
