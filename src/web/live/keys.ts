type Pressed = Pick<KeyboardEvent, 'key' | 'code' | 'shiftKey'>;

const LATIN = /^[a-z]$/i;
const WRITES_ASCII = /^[\x20-\x7e]$/;

/**
 * The small letter of a shortcut, whatever Caps Lock says: as the layout has it, and where that writes other letters (Greek, Cyrillic,
 * Arabic) the one at the same place of an English keyboard (UI Events KeyboardEvent code Values). Null for any other key.
 */
export function letterOf({ key, code }: Pressed): string | null {
  if (LATIN.test(key)) return key.toLowerCase();
  return WRITES_ASCII.test(key) ? null : (/^Key([A-Z])$/.exec(code)?.[1]!.toLowerCase() ?? null);
}

/** The digit of a shortcut, also where a layout writes it with Shift only (French, Czech) or has digits of its own (Arabic). Null for any other key. */
export function digitOf({ key, code, shiftKey }: Pressed): number | null {
  const digit = /^[0-9]$/.test(key) ? key : shiftKey ? undefined : /^Digit([0-9])$/.exec(code)?.[1];
  return digit === undefined ? null : Number(digit);
}
