import type { SourceReport } from './feed';

/** The standard layout of the W3C Gamepad specification, "Remapping": axes and buttons by their place in the hand. */
const AXES = ['Left stick across', 'Left stick along', 'Right stick across', 'Right stick along'];
const BUTTONS = [
  'Right cluster low',
  'Right cluster right',
  'Right cluster left',
  'Right cluster high',
  'Left shoulder',
  'Right shoulder',
  'Left trigger',
  'Right trigger',
  'Centre left',
  'Centre right',
  'Left stick press',
  'Right stick press',
  'Direction up',
  'Direction down',
  'Direction left',
  'Direction right',
  'Centre',
];
const TRIGGERS = new Set([6, 7]);

/** The sources of a gamepad with so many axes and buttons. Places beyond the standard ones are counted. */
export function gamepadSources(axes: number, buttons: number): SourceReport[] {
  return [
    ...Array.from({ length: axes }, (_, i): SourceReport => ({
      key: `axis ${i}`,
      name: AXES[i] ?? `Axis ${i + 1}`,
      kind: 'continuous',
      unit: 'unit',
      range: [-1, 1],
      rest: 0,
      // What lies beyond the standard places may be a lever, which stays.
      ...(i < AXES.length ? { springs: true } : {}),
      pair: `axis ${i ^ 1}`,
      group: 'Sticks',
    })),
    ...Array.from({ length: buttons }, (_, i): SourceReport => ({
      key: `button ${i}`,
      name: BUTTONS[i] ?? `Button ${i + 1}`,
      kind: TRIGGERS.has(i) ? 'continuous' : 'gate',
      unit: 'unit',
      range: [0, 1],
      ...(TRIGGERS.has(i) ? { rest: 0, springs: true } : {}),
      group: TRIGGERS.has(i) ? 'Triggers' : i >= 12 && i <= 15 ? 'Direction pad' : 'Buttons',
    })),
  ];
}
