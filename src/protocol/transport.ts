import Joi from 'joi';
import { TRANSPORT_ACTIONS, type TransportAction } from '../core/messages/transport';
import type { Harmony } from '../core/ensemble/kind';

/** What a page may say to the transport. A tempo that is tapped holds until the rig says another. */
export type ToTransport =
  | { does: TransportAction }
  | { does: 'tempo'; bpm: number }
  | { does: 'goTo'; beat: number }
  | { does: 'nudge'; beats: number };

/** How the transport stands. */
export interface TransportState {
  running: boolean;
  bpm: number;
  /** The beat at a hub time, from the beginning of the piece; it goes on from there at the tempo. */
  beat: number;
  atHubMs: number;
  /** Who says the tempo. */
  from: 'rig' | 'tapped' | 'take' | 'clock';
  /** The clock that comes in and is followed: whose it is, whether it has stopped without a word, and another one that is not. */
  clock: { name: string; lost: boolean; second: string | null } | null;
}

/** What a member of the ensemble does now. */
export interface MemberShown {
  id: string;
  /** As the document says, until a scene says otherwise. */
  on: boolean;
  /** What of it sounds, and the chord that others hear of it. */
  pitches: number[];
  harmony: Harmony | null;
  /** The step that was played last, -1 for none. */
  step: number;
}

const NUDGE_MOST = 1;
const BEAT_MOST = 100_000;

export const toTransport: Joi.SchemaMap = {
  does: Joi.valid(...TRANSPORT_ACTIONS, 'tempo', 'goTo', 'nudge').required(),
  bpm: Joi.when('does', { is: 'tempo', then: Joi.number().min(20).max(400).required(), otherwise: Joi.forbidden() }),
  beat: Joi.when('does', { is: 'goTo', then: Joi.number().min(0).max(BEAT_MOST).required(), otherwise: Joi.forbidden() }),
  beats: Joi.when('does', { is: 'nudge', then: Joi.number().min(-NUDGE_MOST).max(NUDGE_MOST).required(), otherwise: Joi.forbidden() }),
};
