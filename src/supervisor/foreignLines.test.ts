import { expect, it } from 'vitest';
import { isForeign } from './foreignLines';

it.each([
  ['ALSA lib seq_hw.c:466:(snd_seq_hw_open) open /dev/snd/seq failed: No such file or directory', true],
  ['MidiInAlsa::initialize: error creating ALSA sequencer client object.', true],
  ['', true],
  ['Error: something broke', false],
  ['    at file:///work/dist/hub.js:1:1', false],
])('%j', (line, foreign) => expect(isForeign(line)).toBe(foreign));
