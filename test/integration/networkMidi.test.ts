import { createRequire } from 'node:module';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import type { RigDocument } from '../../src/core/rig/document';
import type { OutputsState } from '../../src/protocol/live';
import type { NetworkSettings } from '../../src/protocol/networkSettings';
import { dissect, hasDissector } from '../helpers/dissect';
import { NetworkPeer } from '../helpers/networkPeer';
import { TestClient } from '../helpers/client';
import { freePair, kill, LAN_ADDRESS, Pumice, waitFor } from '../helpers/pumice';

/** The package is JavaScript without types; only this of it is used. */
interface Stranger {
  on(event: string, then: (...said: never[]) => void): void;
  start(): void;
  end(then: () => void): void;
  connect(at: { address: string; port: number }): void;
}

describe('network MIDI', () => {
  let pumice: Pumice;
  let client: TestClient;
  let surface: TestClient;
  let midiPort: number;
  const peers: NetworkPeer[] = [];

  const state = (): OutputsState | undefined => client.messages.flatMap((message) => (message.kind === 'outputs' ? [message.outputs] : [])).at(-1);
  const network = () => state()!.network;
  const openPeers = () => network().sessions.flatMap(({ peers: there }) => there.filter(({ open }) => open).map(({ name }) => name));
  const away = (id: string) => state()?.outputs.find((output) => output.id === id)?.away;
  const settings = async () => (await (await fetch(`${pumice.url}/api/settings/network`)).json()) as NetworkSettings;
  const set = async (change: Partial<NetworkSettings>) => {
    const answer = await fetch(`${pumice.url}/api/settings/network`, { method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ ...(await settings()), ...change }) });
    expect(answer.status, await answer.clone().text()).toBe(200);
  };
  const letIn = async (name: string) => set({ known: [...(await settings()).known, { name, address: LAN_ADDRESS, may: true }] });
  const rig = async () => ((await (await fetch(`${pumice.url}/api/rig`)).json()) as { document: RigDocument }).document;
  const lead = async (id: string, leads: object) => {
    const { name, receiver } = (await rig()).outputs.find((output) => output.id === id)!;
    expect((await pumice.give({ kind: 'change', changes: [{ list: 'outputs', id, to: { id, name, receiver, ...leads } }] })).status).toBe(200);
  };
  const peer = async (name: string) => {
    const one = await NetworkPeer.open(name, await freePair());
    peers.push(one);
    return one;
  };
  /** One that connects to us and is let in. */
  const guest = async (name: string) => {
    const one = await peer(name);
    await letIn(name);
    await waitFor(`${name} to be in`, () => {
      if (!openPeers().includes(name)) one.invite(midiPort);
      return openPeers().includes(name);
    });
    return one;
  };
  const fog = (value: number) => surface.move('wheelhouse.fog', value / 127);
  const fogSays = (value: number) => `b215${value.toString(16).padStart(2, '0')}`;

  beforeAll(async () => {
    pumice = await Pumice.fresh();
    midiPort = pumice.midiPort;
    await pumice.run();
    client = await TestClient.open(pumice.hubPort);
    client.watch({ outputStates: true, inputs: true });
    surface = await TestClient.open(pumice.hubPort, 'wheelhouse');
    await set({ on: true });
    await waitFor('it to be on', () => state()?.network.on);
  });
  afterEach(async () => {
    for (const one of peers.splice(0)) {
      await one.bye();
      one.close();
    }
    await waitFor('everybody to be gone', () => network().sessions.every(({ peers: there }) => there.length === 0));
  });
  afterAll(async () => {
    client?.close();
    surface?.close();
    await pumice?.stop();
  });

  it('asks about a stranger once, lets it in, and remembers; what it plays is an input, and an output may lead to it', async () => {
    const tablet = await peer('Chart tablet');
    const asks = () => (tablet.invite(midiPort), network().asking.some(({ name, address }) => name === 'Chart tablet' && address === LAN_ADDRESS));
    await waitFor('it to be asked about', asks);
    expect(tablet.commands).toEqual([]);
    await letIn('Chart tablet');
    await waitFor('it to be let in', () => (openPeers().length === 0 && tablet.invite(midiPort), openPeers().length === 1));
    expect(network().asking).toEqual([]);

    tablet.play(0xb0, 20, 99);
    await waitFor('its input', async () => (await rig()).signals.some(({ source, input }) => source === 'cc 1 20' && input.includes('chart-tablet')));

    await lead('weather', { kind: 'network', session: 'Pumice', peer: 'Chart tablet' });
    await waitFor('it to be an output', () => away('weather') === null);
    fog(0.5 * 127);
    fog(111);
    await waitFor('the fog', () => tablet.heard.includes(fogSays(111)));

    await tablet.bye();
    await waitFor('it to be missed', () => away('weather') === 'is not connected');
    fog(55);
    await waitFor('what it misses to be counted', () => state()!.outputs.find(({ id }) => id === 'weather')!.missed > 0);
    tablet.heard.length = 0;
    await waitFor('it to be back without a question', () => (openPeers().length === 0 && tablet.invite(midiPort), openPeers().length === 1));
    await waitFor('it to be told what it holds', () => tablet.heard.includes(fogSays(55)));
  });

  it('refuses whom it was told to refuse', async () => {
    const rogue = await peer('Rogue');
    await set({ known: [...(await settings()).known, { name: 'Rogue', address: LAN_ADDRESS, may: false }] });
    await waitFor('the refusal', () => (rogue.invite(midiPort), rogue.commands.includes('NO')));
    expect(openPeers()).toEqual([]);
  });

  it('connects to one by its address, as long as that is wanted, and says when nobody answers', async () => {
    const far = await peer('Far');
    await set({ invited: [{ session: 'Pumice', name: 'Engine room', at: { address: LAN_ADDRESS, port: far.port } }, { session: 'Pumice', name: 'Nobody', at: { address: LAN_ADDRESS, port: await freePair() } }] });
    await waitFor('it to be connected', () => openPeers().includes('Engine room'));
    expect(network().sessions[0]!.peers.find(({ name }) => name === 'Nobody')).toMatchObject({ open: false, invited: true });
    await waitFor('the clocks to be measured', () => network().sessions[0]!.peers.find(({ name }) => name === 'Engine room')?.wayMs !== null);
    await set({ invited: [] });
    await waitFor('the bye', () => far.commands.includes('BY'));
  });

  it('stays right at 5 % loss with doubled and late packets: every note that it hears ends, and values are the last ones', async () => {
    const hull = await guest('Hull');
    await waitFor('its input', () => client.messages.some((message) => message.kind === 'inputs' && message.inputs.feeds.some(({ report, state: of }) => report === 'Hull' && of !== 'gone')));
    hull.setWeather({ loss: 0.05, twice: 0.03, late: 0.05 });
    for (let i = 0; i < 1500; i++) {
      const note = 60 + (i % 12);
      hull.play(0x90, note, 1 + (i % 127));
      hull.play(0xb0, 20, i % 128);
      hull.play(0x80, note, 64);
      if (i % 50 === 0) await new Promise((resolve) => setImmediate(resolve));
    }
    hull.play(0xb0, 20, 77);
    await waitFor('all of it to be acknowledged', () => (hull.guard(), hull.acknowledgedAll));
    const ids = await waitFor('the signals', async () => {
      const { signals } = await rig();
      const of = signals.filter(({ input }) => input.includes('hull'));
      return of.some(({ source }) => source === 'cc 1 20') && of.length >= 10 ? of : null;
    });
    client.watch({ outputStates: true, signals: ids.map(({ id }) => id) });
    const value = ids.find(({ source }) => source === 'cc 1 20')!.id;
    hull.play(0xb0, 20, 78);
    hull.play(0xb0, 20, 77);
    await waitFor('the last value', () => (hull.guard(), Math.round((client.values.get(value) ?? 0) * (ids.find(({ id }) => id === value)!.range[1] === 1 ? 127 : 1)) === 77));
    const gates = ids.filter(({ kind }) => kind === 'gate');
    expect(gates.length).toBeGreaterThan(5);
    await waitFor('no note to sound', () => gates.every(({ id }) => (client.values.get(id) ?? 0) === 0));
  });

  it('is heard right by one that misses packets, and says the end of a note again until it is known to be there', async () => {
    const deaf = await guest('Deaf');
    await lead('bell-and-rigging', { kind: 'network', session: 'Pumice', peer: 'Deaf' });
    await waitFor('the output', () => away('bell-and-rigging') === null);
    for (let i = 0; i < 20; i++) {
      surface.move('wheelhouse.horn', 1);
      await waitFor('the horn', () => deaf.sounding.size > 0);
      // The packet of its end is missed.
      let missed = false;
      deaf.deafTo = () => !missed && (missed = true);
      surface.move('wheelhouse.horn', 0);
      await waitFor('the end of the horn', () => deaf.sounding.size === 0);
    }
  });

  it.skipIf(!hasDissector)('writes packets in which an independent reader finds nothing malformed, journals and commands of the session', async () => {
    const read = await guest('Read');
    read.feedsBack = false;
    await lead('weather', { kind: 'network', session: 'Pumice', peer: 'Read' });
    await lead('bell-and-rigging', { kind: 'network', session: 'Pumice', peer: 'Read' });
    await waitFor('the outputs', () => away('weather') === null && away('bell-and-rigging') === null);
    for (let i = 0; i < 30; i++) {
      fog(i * 4);
      surface.move('wheelhouse.horn', i % 2);
      surface.move('wheelhouse.wind.x', i / 30);
    }
    surface.move('wheelhouse.horn', 0);
    await waitFor('the last of it', () => read.heard.includes(fogSays(116)) && read.heard.at(-1)!.startsWith('89'));
    // All of it may have come in one packet, and a journal tells only of packets before its own.
    fog(120);
    await waitFor('a packet after it', () => read.heard.includes(fogSays(120)));
    const seen = await dissect(read.flights);
    expect(seen.filter(({ malformed }) => malformed)).toEqual([]);
    expect(new Set(seen.map(({ protocol }) => protocol))).toEqual(new Set(['applemidi', 'rtpmidi']));
    const details = seen.map((one) => one.details).join('\n');
    for (const words of ['Invitation', 'Chapter N journal present', 'Chapter C journal present', 'Note On']) expect(details).toContain(words);
  });

  it('meets a stranger of another make, whichever of the two begins', async () => {
    const { Session } = createRequire(import.meta.url)('rtpmidi') as { Session: new (port: number, localName: string, name: string, ssrc: number, published: boolean) => Stranger };
    const port = await freePair();
    const stranger = new Session(port, 'Stranger', 'Stranger', 77, false);
    const heard: string[] = [];
    stranger.on('message', ((_: number, bytes: Buffer) => heard.push(Buffer.from(bytes).toString('hex'))) as never);
    const ready = new Promise<void>((resolve) => stranger.on('ready', resolve as never));
    stranger.start();
    await ready;
    await set({ invited: [{ session: 'Pumice', name: 'Stranger', at: { address: '127.0.0.1', port } }] });
    await waitFor('it to accept', () => openPeers().includes('Stranger'));
    await lead('weather', { kind: 'network', session: 'Pumice', peer: 'Stranger' });
    await waitFor('the output', () => away('weather') === null);
    fog(66);
    await waitFor('the fog there', () => heard.includes(fogSays(66)));
    await set({ invited: [] });
    await lead('weather', { kind: 'standIn' });
    await waitFor('it to be gone', () => openPeers().length === 0);

    await set({ known: [...(await settings()).known, { name: 'Stranger', address: '127.0.0.1', may: true }] });
    stranger.connect({ address: LAN_ADDRESS, port: midiPort });
    await waitFor('it to be let in', () => openPeers().includes('Stranger'));
    await new Promise<void>((resolve) => stranger.end(resolve));
    await waitFor('it to be gone', () => openPeers().length === 0);
  });

  it('plays on through rubbish, floods and whoever is not in it', async () => {
    const good = await guest('Good');
    await lead('weather', { kind: 'network', session: 'Pumice', peer: 'Good' });
    await waitFor('the output', () => away('weather') === null);
    const rubbish = await peer('Rubbish');
    for (let i = 0; i < 3000; i++) {
      const bytes = Buffer.from(Array.from({ length: i % 60 }, () => Math.floor(256 * Math.random())));
      if (i % 3 === 0) bytes.fill(0xff, 0, Math.min(2, bytes.length));
      for (const which of ['control', 'data'] as const) rubbish.throw(bytes, which, midiPort);
      good.throw(bytes, 'data', midiPort);
      if (i % 100 === 0) await new Promise((resolve) => setImmediate(resolve));
    }
    fog(12);
    fog(34);
    await waitFor('the fog', () => good.heard.includes(fogSays(34)));
    expect(openPeers()).toEqual(['Good']);
    expect((await pumice.health()).hub.connected).toBe(true);
  });

  it('announces its sessions and finds those of others, and calls who is wanted by name', async () => {
    const other = await Pumice.fresh();
    await other.run();
    try {
      const first = network().sessions[0]!.announced;
      const otherSettings = (known: NetworkSettings['known'] = []) =>
        fetch(`${other.url}/api/settings/network`, {
          method: 'PUT',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ on: true, sessions: [{ name: 'Second ship', port: other.midiPort }], known, invited: [] }),
        });
      expect((await otherSettings([{ name: first, address: LAN_ADDRESS, may: true }])).status).toBe(200);
      const found = await waitFor('it to be found', () => network().announced.find(({ name }) => name.startsWith('Second ship')));
      await lead('weather', { kind: 'network', session: 'Pumice', peer: found.name });
      // Both want each other at once.
      const leads = { kind: 'network', session: 'Second ship', peer: first, id: 'weather', name: 'Weather', receiver: 'weather' };
      expect((await other.give({ kind: 'change', changes: [{ list: 'outputs', id: 'weather', to: leads }] })).status).toBe(200);
      const there = await TestClient.open(other.hubPort);
      there.watch({ outputStates: true });
      await waitFor('each to be called by its name', () => away('weather') === null && there.messages.some((message) => message.kind === 'outputs' && message.outputs.outputs.some(({ id, away: why }) => id === 'weather' && why === null)));
      there.close();
    } finally {
      await lead('weather', { kind: 'standIn' });
      await other.stop();
    }
  });

  it('a mixer that says where its faders stand moves the faders of the surface, and is not told so again', async () => {
    const mixer = await guest('Mixer');
    mixer.play(0xb0, 1, 1);
    const input = await waitFor('its input', async () => (await rig()).inputs.find((one) => one.kind === 'midi' && one.device?.report === 'Mixer'));
    await lead('weather', { kind: 'network', session: 'Pumice', peer: 'Mixer', comesBack: input.id });
    await waitFor('the output', () => away('weather') === null);
    fog(20);
    await waitFor('the fog', () => mixer.heard.includes(fogSays(20)));
    client.watch({ outputStates: true, signals: ['wheelhouse.fog'] });
    const before = mixer.heard.length;
    for (let value = 21; value <= 100; value++) mixer.play(0xb2, 0x15, value);
    await waitFor('the fader to follow', () => Math.round(127 * client.values.get('wheelhouse.fog')!) === 100);
    fog(101);
    await waitFor('the fog', () => mixer.heard.includes(fogSays(101)));
    expect(mixer.heard.slice(before)).toEqual([fogSays(101)]);
  });

  it('a loop through a peer that says everything back is held back and named', async () => {
    const echo = await guest('Echo');
    client.watch({ outputStates: true, inputs: true });
    echo.play(0xb0, 1, 1);
    const input = await waitFor('its input', async () => (await rig()).inputs.find((one) => one.kind === 'midi' && one.device?.report === 'Echo'));
    await lead('weather', { kind: 'network', session: 'Pumice', peer: 'Echo' });
    expect((await pumice.give({ kind: 'setInput', input: input.id, set: { thru: { output: 'weather', channels: [3], kinds: ['controllers'] } } })).status).toBe(200);
    await waitFor('the output', () => away('weather') === null);
    echo.echoes = true;
    echo.heard.length = 0;
    fog(88);
    const loops = () => client.messages.flatMap((message) => (message.kind === 'inputs' ? [message.inputs.leftOut.loops] : [])).at(-1) ?? 0;
    await waitFor('the loop to be said', () => loops() > 0);
    // A quarter of a second is the longest that it may go round, at less than a millisecond a round here.
    expect(echo.heard.length).toBeLessThan(300);
    echo.echoes = false;
  });

  it('says which port is taken, and gives another session its own', async () => {
    const taken = await peer('Taken');
    await set({ sessions: [...(await settings()).sessions, { name: 'Aft', port: taken.port }] });
    await waitFor('the sentence', () => network().sessions.find(({ name }) => name === 'Aft')?.problem?.startsWith(`UDP ports ${taken.port} and ${taken.port + 1} are in use by another program`));
    await set({ sessions: [(await settings()).sessions[0]!] });
  });

  it('one that comes back to a session of several is told to end what it may have missed the end of, and the others are not', async () => {
    const [stays, goes] = [await guest('Stays'), await guest('Goes')];
    await lead('bell-and-rigging', { kind: 'network', session: 'Pumice' });
    await waitFor('the output', () => away('bell-and-rigging') === null);
    surface.move('wheelhouse.horn', 1);
    await waitFor('the horn', () => stays.sounding.size > 0 && goes.sounding.size > 0);
    await goes.bye();
    await waitFor('it to be gone', () => !openPeers().includes('Goes'));
    surface.move('wheelhouse.horn', 0);
    await waitFor('the end of the horn', () => stays.sounding.size === 0);
    const before = stays.heard.length;
    await waitFor('it to be back', () => (openPeers().includes('Goes') || goes.invite(midiPort), openPeers().includes('Goes')));
    await waitFor('the end of all notes', () => goes.heard.includes('b97b00'));
    expect(stays.heard.slice(before).filter((message) => message.endsWith('7b00'))).toEqual([]);
  });

  it('a peer that did not notice that the hub died is called back, and what sounds there ends', async () => {
    const loyal = await guest('Loyal');
    await lead('bell-and-rigging', { kind: 'network', session: 'Pumice', peer: 'Loyal' });
    await waitFor('the output', () => away('bell-and-rigging') === null);
    surface.move('wheelhouse.horn', 1);
    await waitFor('the horn', () => loyal.sounding.size > 0);
    const { hub } = await pumice.health();
    kill(hub.pid);
    await waitFor('a new hub', async () => (({ ok, hub: { pid } }) => ok && pid !== hub.pid)(await pumice.health()));
    await waitFor('the end of the horn', () => (loyal.clockSync(), loyal.sounding.size === 0));
    client.close();
    surface.close();
    client = await TestClient.open(pumice.hubPort);
    client.watch({ outputStates: true, inputs: true });
    surface = await TestClient.open(pumice.hubPort, 'wheelhouse');
    await waitFor('it to be in again', () => openPeers().includes('Loyal'));
  });

  it('ends its notes and says bye when the program stops', async () => {
    const [last, called] = [await guest('Last'), await peer('Called')];
    await set({ invited: [{ session: 'Pumice', name: 'Called', at: { address: LAN_ADDRESS, port: called.port } }] });
    await waitFor('both to be in', () => openPeers().length === 2);
    await lead('bell-and-rigging', { kind: 'network', session: 'Pumice' });
    await waitFor('the output', () => away('bell-and-rigging') === null);
    surface.move('wheelhouse.horn', 1);
    await waitFor('the horn', () => last.sounding.size > 0 && called.sounding.size > 0);
    await pumice.stop();
    for (const one of [last, called]) await waitFor('the end of the horn, and the bye', () => one.sounding.size === 0 && one.commands.includes('BY'));
    await pumice.run();
    await set({ invited: [] });
    await waitFor('the pages to be back', async () => {
      client.close();
      client = await TestClient.open(pumice.hubPort);
      client.watch({ outputStates: true });
      return waitFor('its state', () => state()?.network.on, 3000);
    });
  });
});
