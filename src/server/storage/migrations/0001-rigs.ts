import { DataTypes } from 'sequelize';
import type { Migration } from './migration';

const rigReference = { model: 'rigs', key: 'id' };

export const rigs: Migration = {
  name: '0001-rigs',
  async up({ context: query }) {
    await query.createTable('rigs', {
      id: { type: DataTypes.STRING, primaryKey: true },
      name: { type: DataTypes.STRING, allowNull: false },
      document: { type: DataTypes.TEXT, allowNull: false },
      revision: { type: DataTypes.INTEGER, allowNull: false },
      savedAtMs: { type: DataTypes.DOUBLE, allowNull: false },
    });
    await query.createTable('revisions', {
      id: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
      rigId: { type: DataTypes.STRING, allowNull: false, references: rigReference, onDelete: 'CASCADE' },
      number: { type: DataTypes.INTEGER, allowNull: false },
      madeAtMs: { type: DataTypes.DOUBLE, allowNull: false },
      edit: { type: DataTypes.TEXT, allowNull: false },
      inverse: { type: DataTypes.TEXT, allowNull: false },
    });
    await query.addIndex('revisions', ['rigId', 'number'], { unique: true });
    await query.createTable('signal_values', {
      rigId: { type: DataTypes.STRING, primaryKey: true, references: rigReference, onDelete: 'CASCADE' },
      signalId: { type: DataTypes.STRING, primaryKey: true },
      value: { type: DataTypes.DOUBLE, allowNull: false },
    });
    await query.createTable('settings', {
      key: { type: DataTypes.STRING, primaryKey: true },
      value: { type: DataTypes.STRING, allowNull: false },
    });
  },
};
