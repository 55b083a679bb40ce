import type { CSSProperties } from 'react';
import type { RigControl, RigSurface } from '../../core/rig/document';
import { Control } from './controls/Control';
import { PlayContext, type Playing } from './PlayContext';

interface SheetProps {
  playing: Playing;
  controls: readonly RigControl[];
  palette: RigSurface['palette'];
  width: number;
  height: number;
  style?: CSSProperties;
}

/** Controls in their places, at a scale; what moves on them is placed in `--unit`s, and so stays in its place when the scale changes. */
export function Sheet({ playing, controls, palette = [], width, height, style }: SheetProps) {
  const { scale } = playing;
  const properties = { '--unit': `${scale}px`, ...Object.fromEntries(palette.map((colour, i) => [`--colour-${i}`, colour])) };
  return (
    <div className="surface" style={{ ...properties, ...style, width: width * scale, height: height * scale, fontSize: 17 * scale }}>
      <PlayContext value={playing}>
        {controls.map((control) => (
          <Control key={control.id} control={control} />
        ))}
      </PlayContext>
    </div>
  );
}
