import { addHandNotes } from '../../core/hands/handNotes';
import { handSources } from '../../core/hands/handSources';
import { HANDS_STAND_IN } from '../../core/standIn/gulls';
import { microphoneSources } from '../../core/listening/microphoneSources';
import { RIG_FORMAT, RIG_VERSION, type Frame, type RigControl, type RigDocument, type RigMapping, type RigScene, type RigSignal, type Shaping } from '../../core/rig/document';
import type { Learned } from '../../core/instruments/instruments';
import type { Hit, Pattern } from '../../core/ensemble/parts';
import { makeSurface } from '../../core/surface/starters';
import { Workbench } from '../../core/surface/workbench';
import type { MessageSpec } from '../../core/messages';
import type { RigVoiceMapping } from '../../core/rig/voices';

/** The demo rig: the sound of a night crossing, played by a small shadow-theatre company. */
export const NIGHT_FERRY_ID = 'night-ferry';

export function nightFerry(): RigDocument {
  return withGulls(withCrew(crossing()));
}

/** Gulls: hands before a camera. The height of the left one is a cry, its opening brings it near, its back brings the fog. */
function withGulls(rig: RigDocument): RigDocument {
  const id = (key: string) => `gulls.${key.replaceAll(' ', '-')}`;
  const signals = handSources([]).map(({ key, pair, ...source }): RigSignal => ({ ...source, id: id(key), input: 'gulls', source: key, ...(pair === undefined ? {} : { pair: id(pair) }) }));
  const bench = new Workbench({ ...rig, inputs: [...rig.inputs, { id: 'gulls', name: 'Gulls', kind: 'hands', device: { report: HANDS_STAND_IN, slot: 1 } }], signals: [...rig.signals, ...signals] });
  bench.put(...addHandNotes(bench.rig, { input: 'gulls', side: 'left', name: 'Gull cries', output: 'bell-and-rigging', set: { low: 69, high: 88, tonic: 2, mode: 'minor' } }).changes);
  const { channel } = bench.rig.voiceMappings.at(-1)!.layout as { channel: number };
  const near: RigMapping = { id: 'gulls-near', name: 'Gulls near', on: true, signal: id('left closure'), shaping: { smoothing: { kind: 'onePole', timeConstantMs: 80 } }, message: { kind: 'controlChange', channel, controller: 11, range: [127, 30] }, output: 'bell-and-rigging' };
  bench.put({ list: 'mappings', id: near.id, to: near });
  const fog = bench.rig.scenes.find((scene) => scene.id === 'fog-bank')!;
  bench.put({ list: 'scenes', id: fog.id, to: { ...fog, recalledBy: { signal: id('left back') } } });
  return bench.rig;
}

/** The crew: a band in D minor under one tablet, each where it sounds best. */
function withCrew(rig: RigDocument): RigDocument {
  const bench = new Workbench(rig);
  makeSurface(bench, 'Crew', { width: 1180, height: 820 }, 'chords', {
    tonic: 2,
    mode: 'minor',
    names: { chord: 'Swell chords', strum: 'Rigging strum', bass: 'Keel bass', pattern: 'Engine pattern', arpeggio: 'Winch arpeggio' },
    outputs: { chord: 'hull-song', strum: 'bell-and-rigging', bass: 'engine-room', pattern: 'bell-and-rigging', arpeggio: 'bell-and-rigging' },
  });
  const made = bench.rig;
  // The drums of the engine are struck beside the bells, whose channel is theirs.
  const voiceMappings = made.voiceMappings.map((mapping) => (mapping.name === 'Engine pattern' ? { ...mapping, layout: { ...mapping.layout, channel: 13 } as typeof mapping.layout } : mapping));
  const members = made.members.map((member) => (member.part.kind === 'pattern' ? { ...member, part: { ...member.part, patterns: enginePatterns() } } : member));
  const scenes = made.scenes.map((scene) => {
    // Under way everybody plays; in the harbour the chords and the keel alone.
    const all = scene.id === 'open-water';
    return all || scene.id === 'harbour' ? { ...scene, members: Object.fromEntries(members.map(({ id, part }) => [id, all || part.kind === 'chord' || part.kind === 'bass'])) } : scene;
  });
  return { ...made, voiceMappings, members, scenes, startsBy: 'first note' };
}

/** Pistons in fours against a shaft in threes, and what happens when the bell rings for more. */
function enginePatterns(): Pattern[] {
  const lane = (name: string, note: number, length: number, hits: Hit[]) => ({ name, plays: { note }, length, hits });
  const hit = (at: number, strike: number, more: Partial<Hit> = {}): Hit => ({ at, strike, lasts: 0.5, ...more });
  return [
    { name: 'A', lanes: [lane('piston', 36, 16, [hit(0, 0.9), hit(4, 0.6), hit(8, 0.9), hit(12, 0.6)]), lane('shaft', 43, 12, [hit(2, 0.5), hit(5, 0.35), hit(8, 0.5), hit(11, 0.35)]), lane('valve', 79, 16, [hit(6, 0.4, { chance: 0.6 }), hit(14, 0.5, { times: 3 })])] },
    { name: 'B', lanes: [lane('piston', 36, 16, [hit(0, 1), hit(3, 0.7), hit(6, 0.8), hit(10, 0.9), hit(13, 0.7)]), lane('shaft', 43, 12, [hit(0, 0.6), hit(3, 0.5), hit(6, 0.6), hit(9, 0.5)]), lane('valve', 79, 16, [hit(2, 0.5), hit(6, 0.5), hit(10, 0.5), hit(14, 0.6, { times: 4 })])] },
  ];
}

function crossing(): RigDocument {
  return {
    format: RIG_FORMAT,
    version: RIG_VERSION,
    name: 'Night Ferry',
    meter: [4, 4],
    members: [],
    tempoBpm: 84,
    inputs: [
      { id: 'wheelhouse', name: 'Wheelhouse', kind: 'surface', surface: 'wheelhouse' },
      { id: 'chart-table', name: 'Chart table', kind: 'surface', surface: 'chart-table' },
      { id: 'hull', name: 'Hull', kind: 'surface', surface: 'hull' },
      { id: 'hull-expressive', name: 'Hull, expressive', kind: 'midi', device: { report: 'stand-in hull', slot: 1 } },
      { id: 'mooring', name: 'Mooring', kind: 'osc' },
      { id: 'foghorn', name: 'Foghorn', kind: 'microphone', device: { report: 'stand-in singer', slot: 1 } },
    ],
    signals: [...[...wheelhouseControls(), ...chartTableControls(), ...hullControls()].flatMap(([input, control]) => signalsOf(input, control)), ...mooringSignals(), ...foghornSignals()],
    derived: [
      { id: 'mooring.strain', name: 'Strain', kind: 'continuous', unit: 'unit', range: [-4, 4], formula: { op: 'speed', of: 'mooring.stretch' } },
    ],
    streams: [
      { id: 'hull.ribs', name: 'Ribs', input: 'hull' },
      { id: 'hull-expressive.notes', name: 'Hull, fingers', input: 'hull-expressive', source: 'all' },
      { id: 'foghorn.sung', name: 'Foghorn, sung', input: 'foghorn', source: 'sung' },
      { id: 'foghorn.mouth-sounds', name: 'Foghorn, mouth sounds', input: 'foghorn', source: 'mouth' },
    ],
    voiceMappings: [hullVoices('hull-ribs', 'Ribs', 'hull.ribs'), hullVoices('hull-fingers', 'Hull, fingers', 'hull-expressive.notes'), foghornVoices()],
    scales: [],
    scenes: scenes(),
    mappings: mappings(),
    outputs: [
      { id: 'engine-room', name: 'Engine room', kind: 'standIn', receiver: 'engine-room' },
      { id: 'weather', name: 'Weather', kind: 'standIn', receiver: 'weather' },
      { id: 'hull-song', name: 'Hull song', kind: 'standIn', receiver: 'hull-song' },
      { id: 'bell-and-rigging', name: 'Bell and rigging', kind: 'standIn', receiver: 'bell-and-rigging' },
    ],
    receivers: [
      { id: 'engine-room', name: 'Engine room', about: 'Low drones: pistons, plates, the lamp generator', bendRangeSemitones: 2, sound: { instrument: 'drone', learned: learned(1, { speed: 20, roughness: 26, hum: 27 }) } },
      { id: 'weather', name: 'Weather', about: 'Noise and wind: fog, swell, spray', bendRangeSemitones: 2, sound: { instrument: 'wind', learned: learned(3, { strength: 21, swell: 22, direction: 23, height: 24, spray: 25 }) } },
      { id: 'hull-song', name: 'Hull song', about: 'Bowed metal with a wide bend', bendRangeSemitones: 48, layout: HULL_ZONE, sound: { instrument: 'bowed', learned: learned(2, { place: 28, pressure: 29, size: 30, depth: 102 }) } },
      { id: 'bell-and-rigging', name: 'Bell and rigging', about: 'Struck things: bell, horn, doors, ropes', bendRangeSemitones: 2, sound: { instrument: 'struck', learned: learned(10, { nearness: 22 }) } },
    ],
    surfaces: [
      {
        id: 'wheelhouse',
        name: 'Wheelhouse',
        width: 1180,
        height: 820,
        pages: [{ id: 'crossing', name: 'Crossing', controls: wheelhouseControls().map(([, control]) => control) }],
      },
      {
        id: 'chart-table',
        name: 'Chart table',
        width: 390,
        height: 844,
        pages: [{ id: 'course', name: 'Course', controls: chartTableControls().map(([, control]) => control) }],
      },
      {
        id: 'hull',
        name: 'Hull',
        width: 1180,
        height: 820,
        pages: [{ id: 'ribs', name: 'Ribs', controls: hullControls().map(([, control]) => control) }],
      },
    ],
  };
}

type Placed = [input: string, control: RigControl];

function wheelhouseControls(): Placed[] {
  const fader = (id: string, label: string, column: number): Placed => [
    'wheelhouse',
    { id, kind: 'fader', label, frame: { x: 24 + column * 130, y: 24, width: 114, height: 540 }, signals: levelSignals('wheelhouse', id) },
  ];
  const push = (id: string, label: string, column: number): Placed => [
    'wheelhouse',
    { id, kind: 'push', label, frame: { x: 24 + column * 228, y: 588, width: 212, height: 208 }, signals: { gate: `wheelhouse.${id}` } },
  ];
  const dial = (id: string, label: string, row: number): Placed => [
    'wheelhouse',
    { id, kind: 'dial', label, frame: { x: 944, y: 588 + row * 108, width: 212, height: 100 }, signals: levelSignals('wheelhouse', id) },
  ];
  return [
    fader('fog', 'Fog', 0),
    fader('engine', 'Engine', 1),
    fader('swell', 'Swell', 2),
    fader('lamp', 'Lamp', 3),
    [
      'wheelhouse',
      {
        id: 'wind',
        kind: 'xy',
        label: 'Wind',
        frame: { x: 552, y: 24, width: 604, height: 540 },
        signals: { x: 'wheelhouse.wind.bearing', y: 'wheelhouse.wind.gust', touch: 'wheelhouse.wind.touch' },
      },
    ],
    push('bell', 'Bell', 0),
    push('horn', 'Horn', 1),
    push('doors', 'Doors', 2),
    push('cast-off', 'Cast off', 3),
    dial('rust', 'Rust', 0),
    dial('spray', 'Spray', 1),
  ];
}

function chartTableControls(): Placed[] {
  const at = (x: number, y: number, width: number, height: number): Frame => ({ x, y, width, height });
  return [
    [
      'chart-table',
      {
        id: 'course',
        kind: 'xy',
        label: 'Course',
        frame: at(16, 16, 358, 358),
        signals: { x: 'chart-table.course.x', y: 'chart-table.course.y', touch: 'chart-table.course.touch' },
      },
    ],
    ['chart-table', { id: 'tide', kind: 'fader', label: 'Tide', frame: at(16, 390, 112, 438), signals: levelSignals('chart-table', 'tide') }],
    ['chart-table', { id: 'depth', kind: 'fader', label: 'Depth', frame: at(139, 390, 112, 438), signals: levelSignals('chart-table', 'depth') }],
    ['chart-table', { id: 'sounding', kind: 'push', label: 'Sounding', frame: at(262, 390, 112, 212), signals: { gate: 'chart-table.sounding' } }],
    ['chart-table', { id: 'log', kind: 'push', label: 'Log', frame: at(262, 616, 112, 212), signals: { gate: 'chart-table.log' } }],
  ];
}

/** Members enough for ten fingers, beside the channels that the rest of the rig uses. */
const HULL_ZONE = { kind: 'zone', zone: 'upper', members: 10 } as const;

/** The hull under the fingers: five rows a fifth apart, in D minor; it is struck in tune and bends freely afterwards. */
function hullControls(): Placed[] {
  return [
    [
      'hull',
      {
        id: 'ribs',
        kind: 'pitchField',
        label: 'Ribs',
        frame: { x: 24, y: 24, width: 1132, height: 772 },
        signals: {},
        stream: 'hull.ribs',
        rows: 5,
        low: 38,
        span: 19,
        interval: 7,
        guides: { root: 2, mode: 'minor' },
        strikeFrom: 'fixed',
        pressureFrom: 'size',
        across: false,
      },
    ],
  ];
}

function hullVoices(id: string, name: string, stream: string): RigVoiceMapping {
  const pull = { scale: { kind: 'mode', root: 2, mode: 'minor' }, referenceHz: 440, atStart: 1, held: 0, bandCents: 60, speedMs: 300, atRelease: 0 } as const;
  return {
    id,
    name,
    on: true,
    stream,
    output: 'hull-song',
    layout: { ...HULL_ZONE, steal: 'oldest' },
    pitch: { transpose: 0, bends: true, ...(stream === 'hull.ribs' ? { pull } : {}) },
    strike: { shaping: {}, range: [0, 127] },
    release: { shaping: {}, range: [0, 127] },
    pressure: { shaping: {}, message: { kind: 'channelPressure' }, range: [0, 127] },
    slide: { shaping: {}, message: { kind: 'controlChange', controller: 74 }, range: [0, 127] },
    group: 'Hull',
  };
}

/** The sung line of the watch, held in the key of the crossing, one note at a time on the drone of the engine room. */
function foghornVoices(): RigVoiceMapping {
  return {
    id: 'foghorn-sung',
    name: 'Foghorn',
    on: true,
    stream: 'foghorn.sung',
    output: 'engine-room',
    layout: { kind: 'mono', channel: 9, priority: 'last', legato: true, glideMs: 30 },
    pitch: { transpose: 0, bends: true, pull: { scale: { kind: 'mode', root: 2, mode: 'minor' }, referenceHz: 440, atStart: 1, held: 1, bandCents: 60, speedMs: 300, atRelease: 0 } },
    strike: { shaping: {}, range: [40, 127] },
    pressure: { shaping: { smoothing: { kind: 'attackRelease', attackMs: 20, releaseMs: 120 } }, message: { kind: 'channelPressure' }, range: [0, 127] },
    group: 'Foghorn',
  };
}

/** What a microphone says besides its streams. */
function foghornSignals(): RigSignal[] {
  return microphoneSources([], []).map(({ key, name, kind, unit, range, group }) => ({ id: `foghorn.${key}`, input: 'foghorn', name, kind, unit, range, source: key, ...(group === undefined ? {} : { group }) }));
}

function levelSignals(input: string, id: string) {
  return { value: `${input}.${id}`, touch: `${input}.${id}.touch` };
}

function signalsOf(input: string, control: RigControl): RigSignal[] {
  return Object.entries(control.signals).map(([role, id]): RigSignal => {
    const gate = role === 'touch' || role === 'gate';
    const name = role === 'value' || role === 'gate' ? control.label : `${control.label} ${AXIS_NAMES[id] ?? role}`;
    const rest = role === 'x' || role === 'y' ? { rest: 0.5 } : {};
    return { id, name, input, kind: gate ? 'gate' : 'continuous', unit: 'unit', range: [0, 1], ...rest };
  });
}

/** The rope sensor: its stretch and its distance to the quay, over OSC. */
function mooringSignals(): RigSignal[] {
  const osc = (address: string) => ({ address, argument: 0 });
  return [
    { id: 'mooring.stretch', name: 'Stretch', input: 'mooring', kind: 'continuous', unit: 'unit', range: [0, 1], osc: osc('/mooring/stretch') },
    { id: 'mooring.distance', name: 'Distance', input: 'mooring', kind: 'continuous', unit: 'mm', range: [20, 1000], osc: osc('/mooring/distance') },
  ];
}

function scenes(): RigScene[] {
  const scene = (id: string, name: string, values: Record<string, number>, glideMs: number): RigScene => ({
    id,
    name,
    mappings: {},
    pages: {},
    values: Object.fromEntries(Object.entries(values).map(([control, value]) => [`wheelhouse.${control}`, value])),
    messages: [],
    glideMs,
  });
  return [
    scene('harbour', 'Harbour', { fog: 0.1, engine: 0.2, swell: 0.1, lamp: 0.8 }, 2000),
    scene('open-water', 'Open water', { fog: 0.2, engine: 0.7, swell: 0.6, lamp: 0.4 }, 6000),
    scene('fog-bank', 'Fog bank', { fog: 0.95, engine: 0.3, swell: 0.3, lamp: 1 }, 4000),
    scene('landfall', 'Landfall', { fog: 0.4, engine: 0.15, swell: 0.2, lamp: 0.6 }, 5000),
  ];
}

/** Controllers of a channel by the parameter that learned them. */
function learned(channel: number, controllers: Record<string, number>): Learned[] {
  return Object.entries(controllers).map(([parameter, controller]) => ({ parameter, channel, controller }));
}

const AXIS_NAMES: Record<string, string> = { 'wheelhouse.wind.bearing': 'bearing', 'wheelhouse.wind.gust': 'gust' };

function mappings(): RigMapping[] {
  const cc = (channel: number, controller: number): MessageSpec => ({ kind: 'controlChange', channel, controller, range: [0, 127] });
  const note = (number: number, velocity: number): MessageSpec => ({ kind: 'note', channel: 10, note: number, velocity });
  const calm = (timeConstantMs: number): Shaping => ({ smoothing: { kind: 'onePole', timeConstantMs } });
  const map = (signal: string, name: string, output: string, message: MessageSpec, shaping: Shaping = {}): RigMapping => ({
    id: signal.replace('wheelhouse.', '').replaceAll('.', '-'),
    name,
    on: true,
    signal,
    shaping,
    message,
    output,
  });
  return [
    map('wheelhouse.fog', 'Fog density', 'weather', cc(3, 21)),
    map('wheelhouse.swell', 'Swell height', 'weather', cc(3, 22), calm(180)),
    map('wheelhouse.wind.bearing', 'Wind bearing', 'weather', cc(3, 23), calm(60)),
    map('wheelhouse.wind.gust', 'Wind gust', 'weather', cc(3, 24), {
      smoothing: { kind: 'oneEuro', minCutoffHz: 1.2, beta: 4, derivativeCutoffHz: 1 },
    }),
    map('wheelhouse.spray', 'Spray', 'weather', cc(3, 25)),
    map('wheelhouse.engine', 'Engine speed', 'engine-room', cc(1, 20), calm(400)),
    map('wheelhouse.rust', 'Rust', 'engine-room', cc(1, 26)),
    map('wheelhouse.lamp', 'Lamp hum', 'engine-room', { kind: 'controlChange', channel: 1, controller: 27, range: [96, 0] }),
    map('chart-table.course.x', 'Bow position', 'hull-song', cc(2, 28), calm(40)),
    map('chart-table.course.y', 'Bow pressure', 'hull-song', cc(2, 29), calm(40)),
    map('chart-table.tide', 'Tide', 'hull-song', cc(2, 30)),
    map('chart-table.depth', 'Depth', 'hull-song', cc(2, 102)),
    map('mooring.stretch', 'Rope groan', 'hull-song', { kind: 'pitchBend', channel: 2, unit: 'semitones', range: [-12, 12] }, calm(30)),
    map('mooring.distance', 'Quay', 'bell-and-rigging', cc(10, 22), {
      deglitch: { median: 5 },
      smoothing: { kind: 'oneEuro', minCutoffHz: 0.8, beta: 3, derivativeCutoffHz: 1 },
      curve: { kind: 'points', points: [[0, 0], [0.3, 0.6], [1, 1]] },
    }),
    map('mooring.strain', 'Rope strain', 'hull-song', cc(2, 31), { rangeIn: { lo: 0, hi: 4 }, smoothing: { kind: 'attackRelease', attackMs: 10, releaseMs: 300 } }),
    map('wheelhouse.bell', 'Bell', 'bell-and-rigging', note(67, 100)),
    map('wheelhouse.horn', 'Horn', 'bell-and-rigging', note(43, 112)),
    map('wheelhouse.doors', 'Doors', 'bell-and-rigging', note(50, 90)),
    map('wheelhouse.cast-off', 'Cast off', 'bell-and-rigging', note(55, 104)),
    map('chart-table.sounding', 'Sounding', 'bell-and-rigging', note(79, 80)),
    map('chart-table.log', 'Log', 'bell-and-rigging', note(62, 76)),
  ];
}
