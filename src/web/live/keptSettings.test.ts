import { describe, expect, it } from 'vitest';
import { KeptSettings } from './keptSettings';

/** Settings whose keeping is answered by hand: what was put, each with its answer. */
function kept() {
  const puts: { value: string; succeed: () => void; fail: () => void }[] = [];
  const said: (string | null)[] = [];
  const settings = new KeptSettings<string>(
    {
      what: 'colours',
      fetch: () => Promise.resolve('grey'),
      put: (value) => new Promise<void>((resolve, reject) => puts.push({ value, succeed: resolve, fail: () => reject(new TypeError('no answer')) })),
      browserKey: 'colours',
      read: () => 'grey',
    },
    (sentence) => said.push(sentence),
  );
  return { settings, puts, said };
}

const turn = () => new Promise((resolve) => setImmediate(resolve));

describe('settings that are kept', () => {
  it('are kept with the next change where nobody answered, and what was changed since is not taken back', async () => {
    const { settings, puts, said } = kept();
    settings.keep('red');
    const first = settings.flush();
    await turn();
    puts[0]!.fail();
    await first;
    expect([settings.isKept, said.at(-1)]).toEqual([false, 'The colours were not kept: Pumice does not answer. It is tried again with the next change.']);
    const again = settings.flush();
    await turn();
    settings.keep('blue');
    puts[1]!.fail();
    await again;
    const last = settings.flush();
    await turn();
    expect(puts.map(({ value }) => value)).toEqual(['red', 'red', 'blue']);
    puts[2]!.succeed();
    await last;
    expect([settings.isKept, said.at(-1)]).toEqual([true, null]);
  });
  it('are kept one after another, and are not kept before the answer', async () => {
    const { settings, puts } = kept();
    const flushed = ['red', 'blue', 'green'].map((colour) => {
      settings.keep(colour);
      return colour === 'blue' ? undefined : settings.flush();
    });
    await turn();
    expect([puts.map(({ value }) => value), settings.isKept]).toEqual([['green'], false]);
    settings.keep('white');
    void settings.flush();
    await turn();
    expect([puts.length, settings.isKept]).toEqual([1, false]);
    puts[0]!.succeed();
    await flushed[0];
    await turn();
    expect([puts.map(({ value }) => value), settings.isKept]).toEqual([['green', 'white'], false]);
    // The page goes: there is no later.
    settings.keep('black');
    void settings.flush(true);
    expect([puts.map(({ value }) => value), settings.isKept]).toEqual([['green', 'white', 'black'], false]);
    puts[1]!.succeed();
    puts[2]!.succeed();
    await turn();
    expect(settings.isKept).toBe(true);
  });
});
