import Joi from 'joi';
import { TRANSPORT_ACTIONS } from '../core/messages/transport';
import { NOT_FINITE, type LoggedEvent } from '../core/engine/eventLog';
import { finite, id, tagged } from './rig/pieces';

const timeMs = finite.required();
const unit = finite.min(0).max(1);
const voice = { timeMs, stream: id.required(), voice: Joi.number().integer().min(0).max(0xffff).required() };
const pitch = finite.min(-128).max(256);
const bytes = Joi.array().items(Joi.number().integer().min(0).max(255)).min(1).required();
const value = Joi.alternatives(finite, Joi.valid(...NOT_FINITE)).required();

const voices = {
  on: { ...voice, pitch: pitch.required(), strike: unit, pressure: unit, slide: unit },
  move: { ...voice, pitch, pressure: unit, slide: unit },
  off: { ...voice, release: unit },
};

/** One line of a file of voices. */
export const voiceLineSchema = tagged<LoggedEvent>('kind', voices);

/** One line of a log of engine events; a rig in it is checked on its own. */
export const loggedEventSchema = tagged<LoggedEvent>('kind', {
  start: { timeMs },
  tick: { timeMs },
  panic: { timeMs },
  release: { timeMs },
  sample: { timeMs, signal: id.required(), value },
  ...voices,
  pedal: { timeMs, stream: id.required(), controller: Joi.number().integer().min(64).max(69).required(), value: Joi.number().integer().min(0).max(127).required() },
  endStream: { timeMs, stream: id.required() },
  restore: { timeMs, signal: id.required(), value },
  recall: { timeMs, scene: id.required() },
  tempo: { timeMs, bpm: finite.min(1).max(1000).allow(null).required(), beat: finite },
  tapped: { timeMs, bpm: finite.min(1).max(1000).required() },
  transport: { timeMs, does: Joi.valid(...TRANSPORT_ACTIONS).required() },
  goTo: { timeMs, beat: finite.required() },
  nudge: { timeMs, beats: finite.min(-16).max(16).required() },
  rig: { timeMs, rig: Joi.object().unknown().required() },
  show: { timeMs, mapping: id.required(), level: finite.min(0).max(1).required() },
  sayAgain: { timeMs, mappings: Joi.array().items(id).required() },
  pass: { timeMs, input: Joi.string().required(), output: id.required(), bytes },
  cameBack: { timeMs, mapping: id.required(), value: finite.required(), signalValue: finite.required() },
  send: { timeMs, output: id.required(), bytes },
  play: { timeMs, output: id.required(), bytes },
  endTake: { timeMs },
  setUp: { timeMs, output: id.required() },
  endThru: { timeMs, input: Joi.string().required() },
});
