import { DataTypes } from 'sequelize';
import type { Migration } from './migration';

/** Which revision another one takes back or makes again. */
export const undo: Migration = {
  name: '0003-undo',
  async up({ context: query }) {
    await query.addColumn('revisions', 'undoes', { type: DataTypes.INTEGER, allowNull: true });
    await query.addColumn('revisions', 'redoes', { type: DataTypes.INTEGER, allowNull: true });
  },
};
