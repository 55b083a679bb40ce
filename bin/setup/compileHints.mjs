import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './run.mjs';

/**
 * Chromium reads a script that begins so wholly in the background while it still arrives, instead of each function at its first call, on
 * the thread that must answer fingers (WICG, *Explicit JavaScript compile hints*); for others it is a comment.
 */
const HINT = '//# allFunctionsCalledOnLoad\n';

/** Marks the scripts of the play page: nearly all of each runs before a finger is answered. */
export function hintPlayPage() {
  const { rootMainFiles } = JSON.parse(readFileSync(join(ROOT, '.next/build-manifest.json'), 'utf8'));
  const manifest = readFileSync(join(ROOT, '.next/server/app/play/[surface]/page_client-reference-manifest.js'), 'utf8');
  const entries = Object.values(JSON.parse(/"entryJSFiles":(\{.*?\})/s.exec(manifest)[1])).flat();
  for (const script of new Set([...rootMainFiles, ...entries])) {
    const file = join(ROOT, '.next', script);
    const text = readFileSync(file, 'utf8');
    if (!text.startsWith(HINT)) writeFileSync(file, HINT + text);
  }
}
