import { notesChannel } from '../core/receivers/played';
import { takes } from '../core/rig/outputs';
import { flatControls } from '../core/surface/controlKinds';
import { LIMITS } from '../protocol/limits';
import type { RecordDoes } from '../protocol/takes';
import { LIVE_VERSION, type FromClient } from '../protocol/live';
import type { Session } from './session';
import { hubTimeMs } from './time';

type Said<K extends FromClient['kind']> = Extract<FromClient, { kind: K }>;

const CANNOT_RECORD: Record<RecordDoes, string> = {
  begin: 'A take is being recorded already, here or in another window: end it first.',
  end: 'No take is being recorded.',
  next: 'No take is being recorded.',
  keep: 'There is nothing to keep: a take is being recorded, or nothing was played in the last half minute.',
  mark: 'No take is being recorded that could be marked.',
};

/**
 * What each message of a page does; who may say it, and what it must look like, stands beside it in `protocol/liveSchema`.
 */
const DOES: { [K in FromClient['kind']]: (session: Session, said: Said<K>) => void } = {
  hello(session, { version, surface }) {
    const { device } = session;
    if (version !== LIVE_VERSION) return session.refuse('invalid', 'version', `This page speaks version ${version} of the live line, the hub ${LIVE_VERSION}: reload the page.`);
    if (device && surface !== undefined && surface !== device.surface) return session.send({ kind: 'given', surface: device.surface });
    session.welcome(surface ?? null);
  },
  watch(session, { watch }) {
    if (!session.device) session.watch(watch);
  },
  watchList: (session, { what, add, remove }) => session.watching.change(what, add, remove),
  ping: (session, { pageTimeMs }) => session.send({ kind: 'pong', pageTimeMs, hubTimeMs: hubTimeMs() }),
  panic(session) {
    session.log.info('panic');
    session.outputs.tests.endAll();
    session.send({ kind: 'panicked', notes: session.player.panic() });
  },
  record(session, { does }) {
    if (!session.record.does(does)) session.refuse('conflict', 'record', CANNOT_RECORD[does]);
  },
  transport: (session, said) => session.player.song.does(said),
  /** A joined device recalls the scenes that its surface has buttons for. */
  recall(session, { scene }) {
    const onSurface = () => session.played.surfaceNow?.pages.some(({ controls }) => flatControls(controls).some((control) => control.kind === 'scene' && control.scene === scene)) ?? false;
    if (session.device && !onSurface()) return session.refuse('forbidden', 'scene', 'This surface has no button for that scene.');
    if (!session.player.recall(scene)) session.refuse('not-found', 'scene', `There is no scene "${scene}" in this rig.`);
  },
  try: (session, { surface }) => session.plays(surface),
  feed(session, said) {
    const numbered = session.feeds.tell(said);
    if (numbered) session.send({ kind: 'feed', feed: said.feed, ...numbered });
    else session.refuse('too-many', 'feed', `A page may bring at most ${LIMITS.feedsPerClient} inputs with ${LIMITS.sourcesPerFeed} sources each: this one has brought more; load it anew.`);
  },
  feedGone: (session, { feed }) => session.feeds.gone(feed),
  holdBack: (session, { signals }) => session.holdBack(signals),
  introduce(session, { mapping, how = 'sweep', inTurn = null }) {
    const { player } = session;
    if (mapping !== null && !player.introduce(mapping, how, inTurn)) return session.refuse('not-found', 'mapping', `"${mapping}" cannot be introduced: it is not a mapping of this rig, or Pumice is on Stage.`);
    if (mapping === null) player.endIntroduction();
    session.introduced();
  },
  introduceNext: (session) => session.introduceNext(),
  standIn(session, { standIn, on, settings = {} }) {
    if (!session.inputs.standIns.set(standIn, on, settings)) session.refuse('not-found', 'standIn', `There is no stand-in "${standIn}".`);
  },
  testOutput(session, { output, on }) {
    const { player, outputs } = session;
    const of = player.rig?.outputs.find(({ id }) => id === output);
    if (!of || takes(of) !== 'midi') return session.refuse('not-found', 'output', `There is no MIDI output "${output}" in this rig to be tested.`);
    if (on) outputs.tests.begin(output, notesChannel(player.rig!, of));
    else outputs.tests.end(output);
  },
  sendTo(session, { output, messages }) {
    for (const bytes of messages) if (!session.player.sendByHand(output, Uint8Array.from(bytes))) return session.refuse('not-found', 'output', `Nothing was sent to "${output}": it is no MIDI output of this rig, or Pumice is on Stage.`);
  },
  setUp(session, { output }) {
    if (!session.player.setUp(output)) session.refuse('not-found', 'output', `"${output}" cannot be set up: it is no MIDI output of this rig, or Pumice is on Stage.`);
  },
  lend: (session, { ports }) => session.lend(ports),
  knob(session, { standIn, knob, value }) {
    if (!session.inputs.standIns.move(standIn, knob, value)) session.refuse('not-found', 'knob', `There is no knob "${knob}" on a stand-in "${standIn}".`);
  },
};

export function obey(session: Session, said: FromClient): void {
  (DOES[said.kind] as (session: Session, said: FromClient) => void)(session, said);
}
