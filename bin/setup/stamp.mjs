import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { ROOT } from './run.mjs';

/** A hash over the contents of files and folders, by which we know that nothing changed. */
export function hashOf(paths) {
  const hash = createHash('sha256').update(process.version);
  for (const path of paths) addTo(hash, path);
  return hash.digest('hex');
}

function addTo(hash, path) {
  const full = join(ROOT, path);
  if (!existsSync(full)) return;
  if (statSync(full).isDirectory()) {
    for (const name of readdirSync(full).sort()) addTo(hash, join(path, name));
  } else {
    hash.update(path).update('\0').update(readFileSync(full)).update('\0');
  }
}

/** Does `work` unless the stamp file already holds `hash`, and writes it afterwards. */
export async function unlessStamped(file, hash, work) {
  const full = join(ROOT, file);
  const isDone = () => existsSync(full) && readFileSync(full, 'utf8') === hash;
  if (isDone()) return;
  await withLock(async () => {
    if (isDone()) return;
    await work();
    mkdirSync(dirname(full), { recursive: true });
    writeFileSync(full, hash);
  });
}

const LOCK = join(ROOT, '.build-lock');

/** One at a time over all processes in this folder, so that two starts at once do not build over each other. */
async function withLock(work) {
  while (!tryLock()) await new Promise((resolve) => setTimeout(resolve, 300));
  try {
    await work();
  } finally {
    rmSync(LOCK, { recursive: true, force: true });
  }
}

function tryLock() {
  try {
    mkdirSync(LOCK);
    writeFileSync(join(LOCK, 'pid'), String(process.pid));
    return true;
  } catch {
    if (!isHeld()) rmSync(LOCK, { recursive: true, force: true });
    return false;
  }
}

function isHeld() {
  try {
    const pid = Number(readFileSync(join(LOCK, 'pid'), 'utf8'));
    process.kill(pid, 0);
    return true;
  } catch (error) {
    // The pid is written just after the folder is made; give it that moment.
    return error.code === 'EPERM' || (existsSync(LOCK) && Date.now() - statSync(LOCK).mtimeMs < 2000);
  }
}
