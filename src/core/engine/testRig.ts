import { RIG_FORMAT, RIG_VERSION, type RigDocument, type RigMapping } from '../rig/document';

/** A rig for tests: one surface, a continuous signal "fog" and a gate "bell", one output, the mappings given. */
export function testRig(mappings: Partial<RigMapping>[]): RigDocument {
  return {
    format: RIG_FORMAT,
    version: RIG_VERSION,
    name: 'Test rig',
    meter: [4, 4],
    members: [],
    tempoBpm: 120,
    inputs: [{ id: 'deck', name: 'Deck', kind: 'surface', surface: 'deck' }],
    signals: [
      { id: 'fog', name: 'Fog', input: 'deck', kind: 'continuous', unit: 'unit', range: [0, 1] },
      { id: 'fog.touch', name: 'Fog touch', input: 'deck', kind: 'gate', unit: 'unit', range: [0, 1] },
      { id: 'bell', name: 'Bell', input: 'deck', kind: 'gate', unit: 'unit', range: [0, 1] },
    ],
    derived: [],
    streams: [],
    voiceMappings: [],
    scales: [],
    scenes: [],
    mappings: mappings.map((mapping, i) => ({
      id: `m${i}`,
      name: `Mapping ${i}`,
      on: true,
      signal: 'fog',
      shaping: {},
      message: { kind: 'controlChange', channel: 3, controller: 21, range: [0, 127] },
      output: 'weather',
      ...mapping,
    })),
    outputs: [{ id: 'weather', name: 'Weather', kind: 'standIn', receiver: 'weather' }],
    receivers: [{ id: 'weather', name: 'Weather', about: '', bendRangeSemitones: 2 }],
    surfaces: [
      {
        id: 'deck',
        name: 'Deck',
        width: 400,
        height: 400,
        pages: [
          {
            id: 'one',
            name: 'One',
            controls: [
              { id: 'fog', kind: 'fader', label: 'Fog', frame: { x: 0, y: 0, width: 100, height: 400 }, signals: { value: 'fog', touch: 'fog.touch' } },
              { id: 'bell', kind: 'push', label: 'Bell', frame: { x: 100, y: 0, width: 100, height: 100 }, signals: { gate: 'bell' } },
            ],
          },
        ],
      },
    ],
  };
}
