import { expect, it } from 'vitest';
import { OnDemand } from './onDemand';

function room() {
  let nowS = 0;
  let due: { id: number; atS: number; work: () => void }[] = [];
  const context = {
    setTimeout(work: () => void, seconds: number) {
      due.push({ id: due.length + 1, atS: nowS + seconds, work });
      return due.length;
    },
    clearTimeout(id: number) {
      due = due.map((one) => (one.id === id ? { ...one, atS: Infinity } : one));
      return context;
    },
  };
  const there: { loud: number; dispose(): void }[] = [];
  const sound = new OnDemand(context as never, () => {
    const made = { loud: 0, dispose: () => void there.splice(there.indexOf(made), 1) };
    there.push(made);
    return made;
  });
  return {
    sound,
    there,
    pass(seconds: number) {
      nowS += seconds;
      for (const one of due) if (one.atS <= nowS) [one.atS] = [Infinity, one.work()];
    },
  };
}

it('is not there before it is asked to sound, and is given back a while after it rang out', () => {
  const { sound, there, pass } = room();
  expect(there).toHaveLength(0);
  sound.wake();
  pass(3600);
  expect(there).toHaveLength(1);
  sound.restAfter(2);
  pass(6.9);
  expect(there).toHaveLength(1);
  pass(0.2);
  expect([there.length, sound.awake]).toEqual([0, null]);
});
it('stays the same where it is asked again in time, whatever was meant to end it', () => {
  const { sound, there, pass } = room();
  const first = sound.wake();
  sound.restAfter(1);
  pass(3);
  expect(sound.wake()).toBe(first);
  pass(3600);
  expect(there).toEqual([first]);
});
it('is made as it was left: the newest change of each name', () => {
  const { sound, there, pass } = room();
  sound.change('loud', (of) => (of.loud = 1));
  expect(sound.wake().loud).toBe(1);
  sound.change('loud', (of) => (of.loud = 2));
  expect(there[0]!.loud).toBe(2);
  sound.restAfter(0);
  pass(6);
  expect(there).toHaveLength(0);
  expect(sound.wake().loud).toBe(2);
});
