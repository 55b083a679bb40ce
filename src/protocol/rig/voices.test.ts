import { describe, expect, it } from 'vitest';
import { OSC_LAYOUT, oscAxis, oscVoiceRig, voiceRig } from '../../core/engine/voices/testVoices';
import { applyEdit } from '../../core/rig/edit';
import type { RigVoiceMapping } from '../../core/rig/voices';
import { voicesThroughOutput } from '../../core/voices/throughOutput';
import { checkRig } from '.';

describe('what of voices fits together', () => {
  const problems = (mapping: Partial<RigVoiceMapping>, kind: 'osc' | 'standIn' = 'standIn') => {
    const rig = oscVoiceRig(mapping);
    if (kind === 'standIn') rig.outputs = [{ id: 'weather', name: 'Weather', kind: 'standIn', receiver: 'weather' }];
    const checked = checkRig(JSON.parse(JSON.stringify(rig)));
    return checked.ok ? [] : checked.problems.map(({ message }) => message);
  };
  it('an OSC layout and its axes leave by an OSC output, all others do not', () => {
    expect(problems({}, 'osc')).toEqual([]);
    expect(problems({}).join()).toMatch(/expected an output that takes OSC/);
    expect(problems({ layout: { kind: 'mono', channel: 1, priority: 'last', legato: true, glideMs: 0 } }).join()).toMatch(/pressure\.message.*expected MIDI/);
    expect(problems({ layout: { ...OSC_LAYOUT, address: 'hull' } }, 'osc').join()).toMatch(/address/);
    expect(problems({ pressure: oscAxis('off') }, 'osc').join()).toMatch(/another word/);
    expect(problems({ pressure: { ...oscAxis('press'), message: { kind: 'keyController', controller: 98 } } }).join()).toMatch(/controller that a key may have/);
  });
  it('another output keeps shaping and direction, and can be played at once', () => {
    const rig = voiceRig({ pressure: { shaping: { curve: { kind: 'power', k: 2 } }, message: { kind: 'channelPressure' }, range: [127, 0] } });
    rig.outputs.push({ id: 'net', name: 'Net', kind: 'osc', receiver: 'weather', host: '127.0.0.1', port: 9000 });
    const [mapping] = rig.voiceMappings;
    const there = voicesThroughOutput(rig, mapping!, 'net');
    expect(there).toMatchObject({ output: 'net', layout: { kind: 'osc' }, pressure: { shaping: { curve: { k: 2 } }, message: { kind: 'osc', part: 'pressure' }, range: [1, 0] } });
    const back = voicesThroughOutput(rig, there, 'weather');
    expect(back).toMatchObject({ output: 'weather', pressure: { message: { kind: 'channelPressure' }, range: [127, 0] } });
    for (const to of [there, back]) {
      const edited = applyEdit(rig, { kind: 'change', changes: [{ list: 'voiceMappings', id: to.id, to }] });
      expect(edited.ok && checkRig(JSON.parse(JSON.stringify(edited.document))).ok).toBe(true);
    }
  });
});
