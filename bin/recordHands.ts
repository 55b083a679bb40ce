// npx tsx bin/recordHands.ts: records what the finder sees of rendered hands, as the clips that stand in for a camera
// (src/core/standIn/recordedHands.json). Needs Chromium; run it again where the clip or the finder changes.
import { writeFileSync } from 'node:fs';
import { CLIP } from '../test/helpers/hands/clip';
import { lookAt } from '../test/helpers/hands/look';
import { RECORDED_PARTS, RECORDED_UNIT } from '../src/core/standIn/gulls';

const looked = await lookAt(CLIP, { model: 'fast', hands: 2 });
const whole = (points: ArrayLike<number>) => Array.from(points, (at) => Math.round(at / RECORDED_UNIT));
const clips = Object.fromEntries(RECORDED_PARTS.map((part) => [part, looked.filter((one) => one.part === part).map(({ found }) => found.map(({ side, picture, world }) => ({ side, picture: whole(picture), world: whole(world) })))]));
writeFileSync('src/core/standIn/recordedHands.json', `${JSON.stringify(clips)}\n`);
process.exit(0);
