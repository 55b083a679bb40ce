import { usePicture } from '../../pictures/PicturesProvider';
import type { Picture } from '../../pictures/protocol';
import { paletteOf } from '../../theme/tokens';
import { useRig } from '../shell/useRig';

/** A picture that moves by itself. It is to be the same object while nothing of it changes. */
export function Pictured({ picture, className }: { picture: Picture; className: string }) {
  const host = usePicture(picture, paletteOf(useRig().stage));
  return <div ref={host} className={className} aria-hidden />;
}
