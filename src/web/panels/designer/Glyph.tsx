import type { ControlKind } from '../../../core/rig/document';
import styles from './Glyph.module.css';

/** A small line drawing of each kind of control, 32 by 24. */
const DRAWINGS: Readonly<Record<ControlKind, string>> = {
  fader: 'M11 2h10v20h-10z M11 14h10',
  faders: 'M4 2h24v20h-24z M10 2v20 M16 2v20 M22 2v20 M4 15h6 M10 9h6 M16 12h6 M22 6h6',
  dial: 'M9 19a9 9 0 1 1 14 0 M16 12l5 -5',
  xy: 'M5 2h22v20h-22z M5 9h22 M19 2v20',
  push: 'M5 5h22v14h-22z M5 19h22',
  toggle: 'M5 5h22v14h-22z M12 15h8',
  radio: 'M2 7h28v10h-28z M11 7v10 M21 7v10 M13 9h6v6h-6z',
  pads: 'M5 2h9v9h-9z M18 2h9v9h-9z M5 13h9v9h-9z M18 13h9v9h-9z',
  keys: 'M3 3h26v18h-26z M9.500 12v9 M16 12v9 M22.500 12v9 M7 3v9h5v-9 M20 3v9h5v-9',
  pitchField: 'M3 3h26v18h-26z M3 9h26 M3 15h26 M7 19c3 -2 5 2 8 0 M14 12c3 -2 5 2 8 0 M20 6h5',
  strip: 'M12 2h8v20h-8z M8 12h16',
  tracks: 'M4 2h5v20h-5z M13 2h5v20h-5z M22 2h5v20h-5z',
  stepper: 'M3 6h26v12h-26z M6 12h5 M21 12h5 M23.500 9.500v5',
  label: 'M9 4h14 M16 4v16',
  readout: 'M4 6h24v12h-24z M9 15v-6 M14 9h5v3h-5v3h5',
  meter: 'M12 2h8v20h-8z M12 9h8 M12 16h8 M12 12.500h8',
  ring: 'M9 19a9 9 0 1 1 14 0 M16 3v4',
  page: 'M4 20v-13h9l3 -4h12v17z',
  bank: 'M4 7h8v13h-8z M12 4h8v16h-8z M20 7h8v13h-8z',
  scene: 'M4 5h24v14h-24z M4 5l12 8l12 -8',
  fold: 'M4 4h14v10h-14z M13 9h15v12h-15z',
};

export function Glyph({ kind }: { kind: ControlKind }) {
  return (
    <svg viewBox="0 0 32 24" className={styles.glyph} aria-hidden>
      <path d={DRAWINGS[kind]} />
    </svg>
  );
}
