import { useEffect, useRef, type ReactNode, type RefObject } from 'react';
import type { HandsProfile } from '../../core/hands/profile';
import { STAND_IN_ASPECT } from '../../core/standIn/gulls';
import type { Heard } from '../live/heard';
import { addCanvasPainter, type Painter } from '../live/painter';
import { readyCanvas } from '../pictures/drawing';
import { useLatest } from '../useLatest';
import { drawHands } from './drawHands';
import styles from './hands.module.css';
import type { HandsNow } from './messages';

interface HandsPictureProps {
  video: RefObject<HTMLVideoElement | null>;
  seen: Heard<HandsNow>;
  running: boolean;
  loaded: number;
  profile: HandsProfile;
  showsCamera: boolean;
  children: ReactNode;
}

/** The picture of the camera, in a mirror or not, with the hands that were found drawn over it. */
export function HandsPicture({ video, seen, running, loaded, profile, showsCamera, children }: HandsPictureProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const latest = useLatest({ running, profile, showsCamera });
  const painter = useRef<Painter>(undefined);
  useEffect(() => painter.current?.wake());
  useEffect(() => {
    const on = canvas.current!;
    const draw = () => {
      const [width, height] = [on.clientWidth, on.clientHeight];
      const context = on.getContext('2d')!;
      readyCanvas({ context, width, height }, devicePixelRatio);
      const { running: isOn, profile: now, showsCamera: shows } = latest.current;
      // What was found is drawn without the camera, too: otherwise nothing would be seen of it.
      if (!isOn || (shows && !now.drawn) || !seen.last) return;
      const { videoWidth, videoHeight } = video.current ?? { videoWidth: 0, videoHeight: 0 };
      const aspect = shows && videoHeight > 0 ? videoWidth / videoHeight : STAND_IN_ASPECT;
      const [w, h] = width / height > aspect ? [height * aspect, height] : [width, width / aspect];
      drawHands(context, seen.last.hands, { x: (width - w) / 2, y: (height - h) / 2, width: w, height: h }, now.mirrored);
    };
    const added = addCanvasPainter(on, draw);
    painter.current = added;
    const forget = seen.listen(() => added.wake());
    return () => {
      forget();
      added.remove();
    };
  }, [seen, video, latest]);
  return (
    <div className={styles.stand}>
      <video ref={video} className={styles.video} data-mirrored={profile.mirrored} data-shown={showsCamera} muted playsInline aria-label="The camera" />
      <canvas ref={canvas} className={styles.drawn} role="img" aria-label="The hands that were found" />
      {children}
      {!running && <p className={styles.hint}>The picture is looked at on this device and never leaves this page. Nobody looks until you press Start.</p>}
      {running && loaded < 1 && (
        <p role="status" className={styles.loading}>
          The hand model is loaded, {Math.round(100 * loaded)} %: about 13 MB, the first time only.
          <progress value={loaded} aria-label="The hand model" />
        </p>
      )}
    </div>
  );
}
