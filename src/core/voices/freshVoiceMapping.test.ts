import { expect, it } from 'vitest';
import { voiceRig } from '../engine/voices/testVoices';
import type { RigVoiceMapping } from '../rig/voices';
import { freshVoiceMapping } from './freshVoiceMapping';
import { streamGlides } from './span';
import { streamInWords } from './streamInWords';

const rig = voiceRig();
rig.inputs.push({ id: 'foghorn', name: 'Foghorn', kind: 'microphone', device: { report: 'deck', slot: 1 } });
rig.streams.push({ id: 'sung', name: 'Sung', input: 'foghorn', source: 'sung' }, { id: 'mouth', name: 'Mouth', input: 'foghorn', source: 'mouth' });
rig.outputs.push({ id: 'net', name: 'Net', kind: 'osc', receiver: 'weather', host: '127.0.0.1', port: 9000 });
const fresh = (stream: string, output = 'weather') => freshVoiceMapping(rig, rig.streams.find(({ id }) => id === stream)!, output, streamGlides(rig, stream)).change.to as RigVoiceMapping;

it('what is sung bends and presses; what the mouth drums goes to the channel of drums as plain notes; keys have theirs free', () => {
  expect(fresh('sung')).toMatchObject({ pitch: { bends: true }, layout: { kind: 'poly', channel: 1 }, pressure: { message: { kind: 'channelPressure' } } });
  expect(fresh('mouth')).toMatchObject({ pitch: { bends: false }, layout: { kind: 'poly', channel: 10 } });
  expect(fresh('mouth').pressure).toBeUndefined();
  expect(fresh('hull')).toMatchObject({ pitch: { bends: false }, layout: { kind: 'poly' } });
});

it('by an OSC output everything is said, below the name of the stream', () => {
  expect(fresh('sung', 'net')).toMatchObject({ layout: { kind: 'osc', address: '/sung' }, pitch: { bends: true }, pressure: { message: { kind: 'osc', part: 'pressure' } }, slide: { message: { kind: 'osc', part: 'slide' } } });
});

it('a stream is said in words', () => {
  expect(rig.streams.map((stream) => streamInWords(rig, stream.id))).toEqual(['all notes, whatever channel', 'each note that is sung is a voice', 'each mouth sound that was taught has a note']);
});
