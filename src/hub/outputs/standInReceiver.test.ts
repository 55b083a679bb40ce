import { describe, expect, it } from 'vitest';
import { StandInReceiver } from './standInReceiver';

function listening() {
  const heard: string[] = [];
  const receiver = new StandInReceiver(({ kind, channel, number, value }) => heard.push(`${kind} ${channel} ${number} ${value}`));
  return { heard, hear: (...bytes: number[]) => receiver.send({ bytes: Uint8Array.from(bytes) }), receiver };
}

describe('StandInReceiver', () => {
  it('hears controllers, notes and bends; a note on with velocity 0 is a note off (MIDI 1.0)', () => {
    const { heard, hear } = listening();
    hear(0xb2, 21, 87);
    hear(0x99, 67, 100);
    hear(0x99, 67, 0);
    hear(0xe0, 0, 0x40);
    expect(heard).toEqual(['controlChange 3 21 87', 'note 10 67 100', 'note 10 67 0', 'pitchBend 1 0 8192']);
  });
  it('says what each address holds now', () => {
    const { receiver, hear } = listening();
    for (const value of [20, 87]) hear(0xb2, 21, value);
    hear(0x9f, 127, 100);
    hear(0xe0, 127, 127);
    expect(receiver.heard()).toEqual([
      { kind: 'controlChange', channel: 3, number: 21, value: 87 },
      { kind: 'note', channel: 16, number: 127, value: 100 },
      { kind: 'pitchBend', channel: 1, number: 0, value: 16383 },
    ]);
    receiver.close();
    expect(receiver.heard()).toEqual([]);
  });
  it('reads several messages in one piece, and one in several', () => {
    const { heard, hear } = listening();
    hear(0xb0, 20, 1, 0xb0, 52, 2);
    hear(0xb0, 7);
    hear(100);
    expect(heard).toEqual(['controlChange 1 20 1', 'controlChange 1 52 2', 'controlChange 1 7 100']);
  });
  it('ends its notes on all sound off and all notes off, of that channel alone', () => {
    const { heard, hear } = listening();
    hear(0x90, 60, 1);
    hear(0x91, 61, 1);
    heard.length = 0;
    hear(0xb0, 120, 0);
    hear(0xb1, 123, 0);
    expect(heard).toEqual(['note 1 60 0', 'note 2 61 0']);
  });
  it('ends them on a change of mode as well, and puts back what a reset of all controllers names (MIDI 1.0, MMA RP-015)', () => {
    const { heard, hear } = listening();
    for (const bytes of [[0x90, 60, 1], [0xb0, 1, 9], [0xb0, 7, 9], [0xb0, 11, 9], [0xb1, 64, 9], [0xe0, 0, 0]]) hear(...bytes);
    heard.length = 0;
    hear(0xb0, 127, 0);
    expect(heard.splice(0)).toEqual(['note 1 60 0']);
    hear(0xb0, 121, 0);
    expect(heard).toEqual(['controlChange 1 1 0', 'controlChange 1 11 127', 'pitchBend 1 0 8192']);
  });
});
