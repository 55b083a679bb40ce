import type { Clip } from '../../../core/surface/copy';
import { ofBrowser } from '../../remember';

const KEY = 'pumice.clip';

/** Keeps what was copied in this browser, so that it can be pasted in another rig and another window. */
export function writeClip(clip: Clip): void {
  ofBrowser.set(KEY, JSON.stringify(clip));
}

/** What was copied last, null where nothing was. What it makes of a rig is checked by the server like any edit. */
export function readClip(): Clip | null {
  try {
    const clip = JSON.parse(ofBrowser.get(KEY) ?? 'null') as Clip | null;
    return clip && clip.controls.length > 0 ? clip : null;
  } catch {
    return null;
  }
}
