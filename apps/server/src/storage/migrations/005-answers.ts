import { DataTypes } from 'sequelize';
import type { Migration } from './migration.ts';

/** What writes with an Idempotency-Key gave, so that one that is sent again gives the same and writes nothing. */
export const answers: Migration = {
  name: '005-answers',
  up: async ({ context: queryInterface }) => {
    await queryInterface.createTable('answers', {
      key: { type: DataTypes.TEXT, primaryKey: true },
      fingerprint: { type: DataTypes.TEXT, allowNull: false },
      value: { type: DataTypes.TEXT, allowNull: false },
      at: { type: DataTypes.TEXT, allowNull: false },
    });
    await queryInterface.addIndex('answers', ['at']);
  },
};
