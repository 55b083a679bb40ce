/**
 * What we use of the sound library, by its files: its index makes a context of its own while it is read, whose clock is a worker
 * that the pages' policy does not allow.
 */
export { Volume } from 'tone/build/esm/component/channel/Volume.js';
export { Panner } from 'tone/build/esm/component/channel/Panner.js';
export { Filter } from 'tone/build/esm/component/filter/Filter.js';
export { Limiter } from 'tone/build/esm/component/dynamics/Limiter.js';
export { Meter } from 'tone/build/esm/component/analysis/Meter.js';
export { Context } from 'tone/build/esm/core/context/Context.js';
export type { BaseContext } from 'tone/build/esm/core/context/BaseContext.js';
export type { InputNode, ToneAudioNode } from 'tone/build/esm/core/context/ToneAudioNode.js';
export { setContext, start } from 'tone/build/esm/core/Global.js';
export { Tremolo } from 'tone/build/esm/effect/Tremolo.js';
export { Reverb } from 'tone/build/esm/effect/Reverb.js';
export { AMSynth } from 'tone/build/esm/instrument/AMSynth.js';
export { FMSynth } from 'tone/build/esm/instrument/FMSynth.js';
export { Synth } from 'tone/build/esm/instrument/Synth.js';
export { FMOscillator } from 'tone/build/esm/source/oscillator/FMOscillator.js';
export { Oscillator } from 'tone/build/esm/source/oscillator/Oscillator.js';
export { Noise } from 'tone/build/esm/source/Noise.js';
