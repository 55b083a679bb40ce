import { DataTypes } from 'sequelize';
import type { Migration } from './migration';

export const recordings: Migration = {
  name: '0002-recordings',
  async up({ context: query }) {
    await query.createTable('recordings', {
      id: { type: DataTypes.STRING, primaryKey: true },
      name: { type: DataTypes.STRING, allowNull: false },
      madeAtMs: { type: DataTypes.DOUBLE, allowNull: false },
      content: { type: DataTypes.BLOB, allowNull: false },
    });
  },
};
