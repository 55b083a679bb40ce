import { DataTypes, Model, type CreationOptional, type InferAttributes, type InferCreationAttributes, type Sequelize } from 'sequelize';
import type { LibraryContent } from '../../protocol/library';
import type { TakeSummary } from '../../protocol/takes';

/** A rig as it is now; its document is JSON text, checked by `protocol/rig` on the way in. */
export class RigRow extends Model<InferAttributes<RigRow>, InferCreationAttributes<RigRow>> {
  declare id: string;
  declare name: string;
  declare document: string;
  declare revision: number;
  declare savedAtMs: number;
}

/** One edit of a rig and the edit that takes it back. */
export class RevisionRow extends Model<InferAttributes<RevisionRow>, InferCreationAttributes<RevisionRow>> {
  declare id: CreationOptional<number>;
  declare rigId: string;
  declare number: number;
  declare madeAtMs: number;
  declare edit: string;
  declare inverse: string;
  declare undoes: CreationOptional<number | null>;
  declare byItself: CreationOptional<boolean>;
  declare redoes: CreationOptional<number | null>;
}

/** The last value of a signal, so that tomorrow's surfaces show it. */
export class SignalValueRow extends Model<InferAttributes<SignalValueRow>, InferCreationAttributes<SignalValueRow>> {
  declare rigId: string;
  declare signalId: string;
  declare value: number;
}

export class SettingRow extends Model<InferAttributes<SettingRow>, InferCreationAttributes<SettingRow>> {
  declare key: string;
  declare value: string;
}

/** Recorded signals; the content is the recording as compressed JSON. */
export class RecordingRow extends Model<InferAttributes<RecordingRow>, InferCreationAttributes<RecordingRow>> {
  declare id: string;
  declare name: string;
  declare madeAtMs: number;
  declare content: Buffer;
}

/** What is kept apart from any rig, as JSON text. */
export class LibraryRow extends Model<InferAttributes<LibraryRow>, InferCreationAttributes<LibraryRow>> {
  declare id: string;
  declare name: string;
  declare kind: LibraryContent['kind'];
  declare savedAtMs: number;
  declare content: string;
}

/** A tablet or phone that has joined. */
export class DeviceRow extends Model<InferAttributes<DeviceRow>, InferCreationAttributes<DeviceRow>> {
  declare id: string;
  declare name: string;
  declare tokenHash: string;
  declare surface: string | null;
  declare width: number;
  declare height: number;
  declare joinedAtMs: number;
}

/** A take: what its log begins with (compressed JSON of `TakeRecord`), and what its pieces come to. */
export class TakeRow extends Model<InferAttributes<TakeRow>, InferCreationAttributes<TakeRow>> {
  declare id: string;
  declare number: number;
  declare name: string;
  declare startedAtMs: number;
  /** Of the hub's clock. */
  declare startMs: number;
  declare lengthMs: number;
  declare events: number;
  declare bytes: number;
  declare state: TakeSummary['state'];
  /** The number of the record that comes next. */
  declare nextRecord: number;
  declare marks: string;
  declare sketch: CreationOptional<string | null>;
  declare rigId: string;
  declare rigName: string;
  declare beginning: Buffer;
}

/** Pieces of its log, one or many, compressed. */
export class TakePieceRow extends Model<InferAttributes<TakePieceRow>, InferCreationAttributes<TakePieceRow>> {
  declare takeId: string;
  declare number: number;
  declare content: Buffer;
}

/** The messages of a take, as they were sent or through another rig; `recipe` is what is tidied in them, as JSON text. */
export class TakeVersionRow extends Model<InferAttributes<TakeVersionRow>, InferCreationAttributes<TakeVersionRow>> {
  declare id: string;
  declare takeId: string;
  declare name: string;
  declare madeAtMs: number;
  declare rig: string | null;
  declare recipe: string;
  declare leftOut: string;
  /** As JSON text; null where it shows nothing that the beginning of the take does not have. */
  declare beyond: string | null;
  declare score: Buffer;
  declare messages: number;
}

export function defineModels(sequelize: Sequelize): void {
  const options = { sequelize, timestamps: false };
  RigRow.init(
    {
      id: { type: DataTypes.STRING, primaryKey: true },
      name: { type: DataTypes.STRING, allowNull: false },
      document: { type: DataTypes.TEXT, allowNull: false },
      revision: { type: DataTypes.INTEGER, allowNull: false },
      savedAtMs: { type: DataTypes.DOUBLE, allowNull: false },
    },
    { ...options, tableName: 'rigs' },
  );
  RevisionRow.init(
    {
      id: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
      rigId: { type: DataTypes.STRING, allowNull: false },
      number: { type: DataTypes.INTEGER, allowNull: false },
      madeAtMs: { type: DataTypes.DOUBLE, allowNull: false },
      edit: { type: DataTypes.TEXT, allowNull: false },
      inverse: { type: DataTypes.TEXT, allowNull: false },
      undoes: { type: DataTypes.INTEGER, allowNull: true },
      byItself: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      redoes: { type: DataTypes.INTEGER, allowNull: true },
    },
    { ...options, tableName: 'revisions' },
  );
  SignalValueRow.init(
    {
      rigId: { type: DataTypes.STRING, primaryKey: true },
      signalId: { type: DataTypes.STRING, primaryKey: true },
      value: { type: DataTypes.DOUBLE, allowNull: false },
    },
    { ...options, tableName: 'signal_values' },
  );
  SettingRow.init(
    {
      key: { type: DataTypes.STRING, primaryKey: true },
      value: { type: DataTypes.STRING, allowNull: false },
    },
    { ...options, tableName: 'settings' },
  );
  RecordingRow.init(
    {
      id: { type: DataTypes.STRING, primaryKey: true },
      name: { type: DataTypes.STRING, allowNull: false },
      madeAtMs: { type: DataTypes.DOUBLE, allowNull: false },
      content: { type: DataTypes.BLOB, allowNull: false },
    },
    { ...options, tableName: 'recordings' },
  );
  LibraryRow.init(
    {
      id: { type: DataTypes.STRING, primaryKey: true },
      name: { type: DataTypes.STRING, allowNull: false },
      kind: { type: DataTypes.STRING, allowNull: false },
      savedAtMs: { type: DataTypes.DOUBLE, allowNull: false },
      content: { type: DataTypes.TEXT, allowNull: false },
    },
    { ...options, tableName: 'library' },
  );
  DeviceRow.init(
    {
      id: { type: DataTypes.STRING, primaryKey: true },
      name: { type: DataTypes.STRING, allowNull: false },
      tokenHash: { type: DataTypes.STRING, allowNull: false },
      surface: { type: DataTypes.STRING, allowNull: true },
      width: { type: DataTypes.INTEGER, allowNull: false },
      height: { type: DataTypes.INTEGER, allowNull: false },
      joinedAtMs: { type: DataTypes.DOUBLE, allowNull: false },
    },
    { ...options, tableName: 'devices' },
  );
  TakeRow.init(
    {
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
    },
    { ...options, tableName: 'takes' },
  );
  TakePieceRow.init(
    {
      takeId: { type: DataTypes.STRING, primaryKey: true },
      number: { type: DataTypes.INTEGER, primaryKey: true },
      content: { type: DataTypes.BLOB, allowNull: false },
    },
    { ...options, tableName: 'take_pieces' },
  );
  TakeVersionRow.init(
    {
      id: { type: DataTypes.STRING, primaryKey: true },
      takeId: { type: DataTypes.STRING, allowNull: false },
      name: { type: DataTypes.STRING, allowNull: false },
      madeAtMs: { type: DataTypes.DOUBLE, allowNull: false },
      rig: { type: DataTypes.TEXT, allowNull: true },
      recipe: { type: DataTypes.TEXT, allowNull: false },
      leftOut: { type: DataTypes.TEXT, allowNull: false },
      beyond: { type: DataTypes.TEXT, allowNull: true },
      score: { type: DataTypes.BLOB, allowNull: false },
      messages: { type: DataTypes.INTEGER, allowNull: false },
    },
    { ...options, tableName: 'take_versions' },
  );
}
