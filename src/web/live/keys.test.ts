import { expect, it } from 'vitest';
import { digitOf, letterOf } from './keys';

const pressed = (key: string, code: string, shiftKey = false) => ({ key, code, shiftKey });

it('a letter is that of the layout, and small under Caps Lock and Shift', () => {
  expect(letterOf(pressed('r', 'KeyR'))).toBe('r');
  expect(letterOf(pressed('R', 'KeyR'))).toBe('r');
  expect(letterOf(pressed('R', 'KeyR', true))).toBe('r');
  // German and French keyboards have Z where English ones have Y and W.
  expect(letterOf(pressed('z', 'KeyY'))).toBe('z');
  expect(letterOf(pressed('z', 'KeyW'))).toBe('z');
});

it('where a layout writes no Latin letters, it is the one at the same place of an English keyboard', () => {
  expect(letterOf(pressed('я', 'KeyZ'))).toBe('z');
  expect(letterOf(pressed('μ', 'KeyM'))).toBe('m');
  expect(letterOf(pressed('ق', 'KeyR'))).toBe('r');
  expect(letterOf(pressed('Process', 'KeyM'))).toBe('m');
});

it('what is no letter is none', () => {
  // French keyboards have a comma at the place of M, and M beside L.
  expect(letterOf(pressed(',', 'KeyM'))).toBe(null);
  expect(letterOf(pressed('m', 'Semicolon'))).toBe('m');
  for (const [key, code] of [[' ', 'Space'], ['F8', 'F8'], ['Enter', 'Enter'], ['ü', 'BracketLeft'], ['1', 'Digit1'], ['', '']] as const) expect(letterOf(pressed(key, code))).toBe(null);
});

it('a digit is one with or without Shift where the layout wants that, and on the number pad', () => {
  expect(digitOf(pressed('1', 'Digit1'))).toBe(1);
  expect(digitOf(pressed('9', 'Numpad9'))).toBe(9);
  expect(digitOf(pressed('&', 'Digit1'))).toBe(1);
  expect(digitOf(pressed('1', 'Digit1', true))).toBe(1);
  expect(digitOf(pressed('ě', 'Digit2'))).toBe(2);
  expect(digitOf(pressed('٣', 'Digit3'))).toBe(3);
  // Shift and 1 of an English keyboard.
  expect(digitOf(pressed('!', 'Digit1', true))).toBe(null);
  expect(digitOf(pressed('End', 'Numpad1'))).toBe(null);
  expect(digitOf(pressed('m', 'KeyM'))).toBe(null);
});
