import { existsSync, rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { QueryTypes, Sequelize } from 'sequelize';
import sqlite3 from 'sqlite3';
import { SequelizeStorage, Umzug } from 'umzug';
import { isDiskFull } from './trouble';
import { migrations } from './migrations';
import type { Migration } from './migrations/migration';
import { defineModels } from './models';

/** The database cannot be used; the message is a sentence for the person who started the program. */
export class DatabaseRefusal extends Error {}

export interface OpenOptions {
  /** The steps to run, all of them unless a test says otherwise. */
  steps?: Migration[];
}

/**
 * Opens the database of a data folder and brings it up to date. A copy is kept beside it before each migration of a
 * database that holds something. Throws `DatabaseRefusal`, with the file left as it was, where a newer version wrote it
 * or it is no database.
 */
export async function openDatabase(dataFolder: string, options: OpenOptions = {}): Promise<Sequelize> {
  try {
    return await open(dataFolder, options);
  } catch (error) {
    if (!isDiskFull(error, dataFolder)) throw error;
    throw new DatabaseRefusal(`The disk of ${dataFolder} is full: free some space on it, or set PUMICE_DATA to a folder elsewhere, and start again. What is stored there was left untouched.`);
  }
}

async function open(dataFolder: string, { steps = migrations }: OpenOptions): Promise<Sequelize> {
  const file = join(dataFolder, 'pumice.sqlite');
  const done = existsSync(file) ? await migrationsDone(file) : [];
  const unknown = done.filter((name) => !steps.some((step) => step.name === name));
  if (unknown.length > 0) {
    throw new DatabaseRefusal(
      `The database ${file} was written by a newer version of Pumice (it has "${unknown[0]}"): start that version, or set PUMICE_DATA to another folder. It was left untouched.`,
    );
  }
  const sequelize = new Sequelize({ dialect: 'sqlite', dialectModule: sqlite3, storage: file, logging: false });
  await sequelize.query('PRAGMA journal_mode = WAL');
  const umzug = new Umzug({
    migrations: steps,
    context: sequelize.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined,
  });
  if (done.length > 0) {
    umzug.on('migrating', async ({ name }) => {
      const copy = join(dataFolder, `pumice.before-${name}.${Date.now()}.sqlite`);
      await sequelize.query('VACUUM INTO ?', { replacements: [copy] });
    });
  }
  await umzug.up();
  defineModels(sequelize);
  return sequelize;
}

/** The migrations that a file says it has had, read without writing to it. */
async function migrationsDone(file: string): Promise<string[]> {
  const hadLog = existsSync(`${file}-wal`);
  const sequelize = new Sequelize({
    dialect: 'sqlite',
    dialectModule: sqlite3,
    storage: file,
    logging: false,
    dialectOptions: { mode: sqlite3.OPEN_READONLY },
  });
  try {
    const tables = await sequelize.query<{ name: string }>("SELECT name FROM sqlite_master WHERE name = 'migrations'", {
      type: QueryTypes.SELECT,
    });
    if (tables.length === 0) return [];
    const rows = await sequelize.query<{ name: string }>('SELECT name FROM migrations', { type: QueryTypes.SELECT });
    return rows.map(({ name }) => name);
  } catch (error) {
    if (isDiskFull(error, dirname(file))) throw error;
    throw new DatabaseRefusal(
      `The database ${file} cannot be read (${(error as Error).message}): restore a copy of it, or set PUMICE_DATA to another folder. It was left untouched.`,
    );
  } finally {
    await sequelize.close();
    // Reading a database in WAL mode makes two side files, which only a writer would tidy away.
    if (!hadLog) for (const side of ['-wal', '-shm']) rmSync(file + side, { force: true });
  }
}
