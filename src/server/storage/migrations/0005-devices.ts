import { DataTypes } from 'sequelize';
import type { Migration } from './migration';

export const devices: Migration = {
  name: '0005-devices',
  async up({ context: query }) {
    await query.createTable('devices', {
      id: { type: DataTypes.STRING, primaryKey: true },
      name: { type: DataTypes.STRING, allowNull: false },
      tokenHash: { type: DataTypes.STRING, allowNull: false, unique: true },
      surface: { type: DataTypes.STRING, allowNull: true },
      width: { type: DataTypes.INTEGER, allowNull: false },
      height: { type: DataTypes.INTEGER, allowNull: false },
      joinedAtMs: { type: DataTypes.DOUBLE, allowNull: false },
    });
  },
};
