import type { RigReceiver } from '../../../core/rig/document';

/** Two numbers as people write them: `36 to 47`. */
function rangeFrom(text: string, least: number, most: number, what: string): [number, number] {
  const [, low, high] = /^\s*(\d+)\s*(?:to|-|–)\s*(\d+)\s*$/.exec(text) ?? [];
  const [a, b] = [Number(low), Number(high)];
  if (low === undefined || a < least || b > most || a > b) throw new Error(`“${text}” is no range of ${what} from ${least} to ${most}, as ${least} to ${least + 3}: nothing was changed.`);
  return [a, b];
}

export const runFrom = (text: string) => rangeFrom(text, 1, 16, 'channels');

export function notesFrom(text: string): { low: number; high: number } | undefined {
  if (text.trim() === '') return undefined;
  const [low, high] = rangeFrom(text, 0, 127, 'note numbers');
  return { low, high };
}

export const programText = ({ program }: RigReceiver) => (program ? `${program.number + 1}${program.bank === undefined ? '' : ` bank ${program.bank}`}` : '');

/** A program, counted from 1, with its bank where it has one: `5`, `5 bank 130`. */
export function programFrom(text: string): RigReceiver['program'] {
  if (text.trim() === '') return undefined;
  const [, program, bank] = /^\s*(\d+)(?:\s+bank\s+(\d+))?\s*$/i.exec(text) ?? [];
  if (program === undefined || Number(program) < 1 || Number(program) > 128 || Number(bank ?? 0) > 16383) throw new Error(`“${text}” is no program from 1 to 128 with a bank up to 16383, as 5 or 5 bank 130: nothing was changed.`);
  return { number: Number(program) - 1, ...(bank === undefined ? {} : { bank: Number(bank) }) };
}

/** Controllers with what they do, as people write them: `7 volume, 11 expression`. */
export function hardWiredFrom(text: string): { controller: number; does: string }[] {
  const parts = text.split(',').map((part) => part.trim()).filter((part) => part !== '');
  const wired = parts.map((part) => {
    const [, number, does] = /^(?:cc\s*)?(\d{1,3})\s+(.{1,80})$/i.exec(part) ?? [];
    if (number === undefined || Number(number) > 127) throw new Error(`“${part}” is no controller from 0 to 127 with what it does, as 7 volume: nothing was changed.`);
    return { controller: Number(number), does: does! };
  });
  const twice = wired.find(({ controller }, i) => wired.findIndex((other) => other.controller === controller) !== i);
  if (twice) throw new Error(`Controller ${twice.controller} stands there twice: nothing was changed.`);
  return wired;
}
