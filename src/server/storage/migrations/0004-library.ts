import { DataTypes } from 'sequelize';
import type { Migration } from './migration';

export const library: Migration = {
  name: '0004-library',
  async up({ context: query }) {
    await query.createTable('library', {
      id: { type: DataTypes.STRING, primaryKey: true },
      name: { type: DataTypes.STRING, allowNull: false },
      kind: { type: DataTypes.STRING, allowNull: false },
      savedAtMs: { type: DataTypes.DOUBLE, allowNull: false },
      content: { type: DataTypes.TEXT, allowNull: false },
    });
  },
};
