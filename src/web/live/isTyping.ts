/** Fields that are pressed, not typed into: a shortcut goes on working after a click on one. */
const PRESSED = ['checkbox', 'radio', 'range', 'color', 'file', 'button'];

/** Whether a key goes into a field, so that it is no shortcut. */
export function isTyping(target: EventTarget | null): boolean {
  if (target instanceof HTMLInputElement) return !PRESSED.includes(target.type);
  return target instanceof HTMLElement && (target.isContentEditable || ['TEXTAREA', 'SELECT'].includes(target.tagName));
}
