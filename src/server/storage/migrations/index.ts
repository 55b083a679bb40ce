import type { Migration } from './migration';
import { rigs } from './0001-rigs';
import { recordings } from './0002-recordings';
import { undo } from './0003-undo';
import { library } from './0004-library';
import { devices } from './0005-devices';
import { takenUp } from './0006-taken-up';
import { kits } from './0007-kits';
import { voices } from './0008-voices';
import { takes } from './0009-takes';
import { ensemble } from './0010-ensemble';
import { shown } from './0011-shown';

/** All migrations in order. A landed one is never changed: add the next number. */
export const migrations: Migration[] = [rigs, recordings, undo, library, devices, takenUp, kits, voices, takes, ensemble, shown];
