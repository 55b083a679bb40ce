import { closeSync, openSync, readSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import { LIMITS } from '../../protocol/limits';
import { bytesFor, isSilent, memoryStore, type SoundingStore } from './soundingBook';

const NAME_BYTES = LIMITS.idLength;
const NAMES = LIMITS.outputs * NAME_BYTES;
const SIZE = NAMES + bytesFor(LIMITS.outputs);
/** So long the end of a note may wait to be written down. */
const ENDS_MS = 100;

/**
 * What sounds, in a small file of a fixed size: the ids of the outputs, then a bit for each of their keys, then one for each of their pedals
 * (a shorter file is one of before there were any). A note costs the
 * writing of one byte in its place (50 us) before it leaves, and needs no more room on the disk than it has from the first start. Ends
 * are written together a little later: what follows the end of a note at once does not wait for it, and a repeated one writes nothing.
 * What is written survives any death of the processes, alone or together; the next hub ends what it finds, if need be once more.
 * Without a file that can be written the notes are kept in memory alone; `problem` says why.
 */
export function openSoundingFile(folder: string): { store: SoundingStore; problem: string | null; close: () => void } {
  const memory = memoryStore(LIMITS.outputs);
  const names = memory.outputs as string[];
  const { bits } = memory;
  let file: number;
  try {
    file = openSync(join(folder, 'sounding'), 'a+');
    closeSync(file);
    file = openSync(join(folder, 'sounding'), 'r+');
    const bytes = new Uint8Array(SIZE);
    if (readSync(file, bytes, 0, SIZE, 0) < SIZE) writeSync(file, bytes, 0, SIZE, 0);
    for (let i = 0; i < LIMITS.outputs; i++) {
      const name = bytes.subarray(i * NAME_BYTES, (i + 1) * NAME_BYTES);
      const end = name.indexOf(0);
      if (end === 0) break;
      names.push(new TextDecoder().decode(end < 0 ? name : name.subarray(0, end)));
    }
    bits.set(bytes.subarray(NAMES));
  } catch (error) {
    return { store: memory, problem: `What sounds cannot be written down (${(error as Error).message}): if Pumice dies, its notes may hang.`, close: () => undefined };
  }
  const write = (bytes: Uint8Array, at: number, length: number, position: number) => {
    try {
      writeSync(file, bytes, at, length, position);
    } catch {
      // The disk that took the whole file before does not take a byte of it: playing goes on all the same.
    }
  };
  const written = bits.slice();
  let ends: NodeJS.Timeout | null = null;
  const writeEnds = () => {
    if (ends) clearTimeout(ends);
    ends = null;
    const from = bits.findIndex((byte, at) => byte !== written[at]);
    if (from < 0) return;
    const to = bits.findLastIndex((byte, at) => byte !== written[at]) + 1;
    write(bits, from, to - from, NAMES + from);
    written.set(bits.subarray(from, to), from);
  };
  return {
    problem: null,
    close: () => {
      writeEnds();
      closeSync(file);
    },
    store: {
      outputs: names,
      most: LIMITS.outputs,
      bits,
      add(output) {
        const place = names.length < LIMITS.outputs ? names.length : freePlace(memory);
        if (place === null) return null;
        // What another output had in this place is not taken for this one's.
        writeEnds();
        names[place] = output;
        const name = new Uint8Array(NAME_BYTES);
        new TextEncoder().encodeInto(output, name);
        write(name, 0, NAME_BYTES, place * NAME_BYTES);
        return place;
      },
      changed(at) {
        if ((bits[at]! & ~written[at]!) === 0) ends ??= setTimeout(writeEnds, ENDS_MS).unref();
        else {
          write(bits, at, 1, NAMES + at);
          written[at] = bits[at]!;
        }
      },
    },
  };
}

/** The place of an output that sounds nothing, to be given to another. */
function freePlace(store: SoundingStore): number | null {
  for (let place = 0; place < LIMITS.outputs; place++) if (isSilent(store, place)) return place;
  return null;
}
