import { DataTypes } from 'sequelize';
import type { Migration } from './migration';

/** A version of a take keeps the names of what it shows and the rig that the take began with does not have. */
export const shown: Migration = {
  name: '0011-shown',
  async up({ context: query }) {
    await query.addColumn('take_versions', 'beyond', { type: DataTypes.TEXT, allowNull: true });
  },
};
