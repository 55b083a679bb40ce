import { usePicture } from '../../pictures/PicturesProvider';
import type { Picture } from '../../pictures/protocol';
import { paletteOf } from '../../theme/tokens';
import { useRig } from '../shell/useRig';

interface PicturedProps {
  /** To be the same object while nothing of it changes. */
  picture: Picture;
  className: string | undefined;
  /** Without one it only repeats what stands beside it. */
  label?: string;
}

/** A picture that moves by itself. */
export function Pictured({ picture, className, label }: PicturedProps) {
  const host = usePicture(picture, paletteOf(useRig().stage));
  return <div ref={host} className={className} data-picture={picture.kind} {...(label === undefined ? { 'aria-hidden': true } : { role: 'img', 'aria-label': label })} />;
}
