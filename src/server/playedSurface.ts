import { captionsOfBanks, scalesOf } from '../core/surface/captions';
import type { PlayedSurface } from '../protocol/playedSurface';
import { services } from './services';

/** A surface of the open rig as a page plays it, null where there is none of this id. */
export function playedSurface(id: string): PlayedSurface | null {
  const { id: rig, document, revision, stage } = services().desk.current;
  const surface = document.surfaces.find((candidate) => candidate.id === id);
  return surface ? { surface, captions: captionsOfBanks(document, surface), scales: scalesOf(document, surface), played: `${rig} ${revision}`, stage } : null;
}
