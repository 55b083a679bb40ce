import { DataTypes } from 'sequelize';
import type { Migration } from './migration';

/** Edits that Pumice makes by itself, when it takes up what arrives, are told from those of a person: undo passes over them. */
export const takenUp: Migration = {
  name: '0006-taken-up',
  async up({ context: query }) {
    await query.addColumn('revisions', 'byItself', { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false });
  },
};
