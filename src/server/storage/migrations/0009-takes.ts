import { DataTypes } from 'sequelize';
import type { Migration } from './migration';

export const takes: Migration = {
  name: '0009-takes',
  async up({ context: query }) {
    await query.createTable('takes', {
      id: { type: DataTypes.STRING, primaryKey: true },
      number: { type: DataTypes.INTEGER, allowNull: false },
      name: { type: DataTypes.STRING, allowNull: false },
      startedAtMs: { type: DataTypes.DOUBLE, allowNull: false },
      startMs: { type: DataTypes.DOUBLE, allowNull: false },
      lengthMs: { type: DataTypes.DOUBLE, allowNull: false },
      events: { type: DataTypes.INTEGER, allowNull: false },
      bytes: { type: DataTypes.INTEGER, allowNull: false },
      state: { type: DataTypes.STRING, allowNull: false },
      nextRecord: { type: DataTypes.INTEGER, allowNull: false },
      marks: { type: DataTypes.TEXT, allowNull: false },
      sketch: { type: DataTypes.TEXT, allowNull: true },
      rigId: { type: DataTypes.STRING, allowNull: false },
      rigName: { type: DataTypes.STRING, allowNull: false },
      beginning: { type: DataTypes.BLOB, allowNull: false },
    });
    await query.createTable('take_pieces', {
      takeId: { type: DataTypes.STRING, primaryKey: true, references: { model: 'takes', key: 'id' }, onDelete: 'CASCADE' },
      number: { type: DataTypes.INTEGER, primaryKey: true },
      content: { type: DataTypes.BLOB, allowNull: false },
    });
    await query.createTable('take_versions', {
      id: { type: DataTypes.STRING, primaryKey: true },
      takeId: { type: DataTypes.STRING, allowNull: false, references: { model: 'takes', key: 'id' }, onDelete: 'CASCADE' },
      name: { type: DataTypes.STRING, allowNull: false },
      madeAtMs: { type: DataTypes.DOUBLE, allowNull: false },
      rig: { type: DataTypes.TEXT, allowNull: true },
      recipe: { type: DataTypes.TEXT, allowNull: false },
      leftOut: { type: DataTypes.TEXT, allowNull: false },
      score: { type: DataTypes.BLOB, allowNull: false },
      messages: { type: DataTypes.INTEGER, allowNull: false },
    });
    await query.addIndex('take_versions', ['takeId']);
  },
};
