/** The colours of the two states of the program; the only place where they stand. */
export interface Palette {
  ground: string;
  raised: string;
  sunken: string;
  ink: string;
  quiet: string;
  hairline: string;
  accent: string;
  onAccent: string;
  alive: string;
  trouble: string;
}

/** Pale stone and ink, for working in daylight. */
export const BENCH: Palette = {
  ground: '#F4F1EA',
  raised: '#FBF9F5',
  sunken: '#EAE5DA',
  ink: '#24272B',
  quiet: '#5F5F5A',
  hairline: '#D8D2C4',
  accent: '#2B6A8C',
  onAccent: '#FFFFFF',
  alive: '#D9B310',
  trouble: '#B5452C',
};

/** Basalt and chalk, for playing in the dark. */
export const STAGE: Palette = {
  ground: '#15171A',
  raised: '#1F2226',
  sunken: '#0E0F11',
  ink: '#EDE8DC',
  quiet: '#A9A69D',
  hairline: '#3A3E44',
  accent: '#7DB3CF',
  onAccent: '#15171A',
  alive: '#D9B310',
  trouble: '#E5795F',
};

export const FONT = "'Atkinson Hyperlegible Next Variable', system-ui, sans-serif";
export const MONO = "'Atkinson Hyperlegible Mono Variable', ui-monospace, monospace";

export const paletteOf = (stage: boolean): Palette => (stage ? STAGE : BENCH);

/** A palette as CSS custom properties, `--ground` and so on. */
export function cssVariables(palette: Palette): Record<string, string> {
  return {
    ...Object.fromEntries(Object.entries(palette).map(([name, colour]) => [`--${name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`)}`, colour])),
    '--font': FONT,
    '--mono': MONO,
  };
}
