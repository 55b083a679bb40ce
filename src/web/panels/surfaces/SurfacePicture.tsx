import type { RigSurface } from '../../../core/rig/document';
import { CONTROL_KINDS } from '../../../core/surface/controlKinds';
import styles from './SurfacePicture.module.css';

/** A small drawing of a surface at its true proportions. */
export function SurfacePicture({ surface }: { surface: RigSurface }) {
  return (
    <svg viewBox={`-8 -8 ${surface.width + 16} ${surface.height + 16}`} className={styles.surfacePicture} aria-hidden>
      <rect width={surface.width} height={surface.height} rx={28} className={styles.device} />
      {surface.pages[0]!.controls.map(({ id, kind, label, colour, frame: { x, y, width, height } }) => (
        <g key={id}>
          <rect x={x} y={y} width={width} height={height} rx={10} className={`control-${kind}`} {...(colour === undefined ? {} : { style: { stroke: surface.palette?.[colour], strokeWidth: 8 } })} />
          <text x={x + width / 2} y={y + height / 2} fontSize={Math.min(30, width / 5.5)}>
            {label || CONTROL_KINDS[kind].name}
          </text>
        </g>
      ))}
    </svg>
  );
}
