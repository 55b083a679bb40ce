import { hull } from './expressive';
import { deckHand } from './gamepad';
import { harmonium } from './keyboard';
import { lantern } from './motion';
import { gangway, lamps, mooring } from './osc';
import type { StandIn } from './standIn';

/** Every stand-in that ships with the program. */
export const STAND_INS: readonly StandIn[] = [deckHand, lantern, mooring, gangway, lamps, harmonium, hull];
