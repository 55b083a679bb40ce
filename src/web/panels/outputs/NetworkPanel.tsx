import { useState } from 'react';
import type { NetworkPeerState, NetworkState } from '../../../protocol/live';
import type { InvitedPeer, NetworkSettings } from '../../../protocol/networkSettings';
import { useOutputsState } from '../../live/useLiveFacts';
import { Aside } from '../shared/Aside';
import { Labelled } from '../shared/Field';
import { EditButton, EditInput, EditSelect, EditSwitch } from '../shared/edit';
import { hostFrom, isIpAddress } from '../shared/fromText';
import { NumberBox } from '../shared/NumberBox';
import { useNetworkSettings } from '../shared/useNetworkSettings';
import styles from './NetworkPanel.module.css';
import shared from '../shared/shared.module.css';

/** How far apart the ports of sessions are proposed: each has two. */
const PORTS_APART = 2;

/** Network MIDI: whether it is on, who is in each session, who is there to be connected to, and who may come in. */
export function NetworkPanel({ onClose }: { onClose: () => void }) {
  const { settings, change } = useNetworkSettings();
  const state = useOutputsState()?.network;
  const [chosen, choose] = useState<string | null>(null);
  if (!settings || !state) return null;
  const into = (settings.sessions.find(({ name }) => name === chosen) ?? settings.sessions[0]!).name;
  // Of one name there is one: where it is called is said anew.
  const invite = (peer: Omit<InvitedPeer, 'session'>) => void change(({ invited: before }) => ({ invited: [...before.filter((one) => one.session !== into || one.name !== peer.name), { session: into, ...peer }] }));
  const invited = (name: string) => settings.invited.some((one) => one.name === name) || state.sessions.some(({ peers }) => peers.some((peer) => peer.name === name));
  const found = state.announced.filter(({ name }) => !invited(name));
  return (
    <Aside title="Network MIDI" onClose={onClose}>
      <Labelled label="Other computers and tablets may connect">
        <EditSwitch checked={settings.on} onChange={(on) => void change({ on })} />
      </Labelled>
      {!settings.on && <p className={styles.quiet}>Off: nothing is listened to and nothing announced. Switched on, whoever wants to connect is asked about once.</p>}
      {state.problem && <p className={styles.trouble}>Network MIDI: {state.problem}.</p>}
      {settings.sessions.map((session, i) => (
        <Session key={session.name} session={session} state={state.sessions.find(({ name }) => name === session.name)} on={settings.on} settings={settings} change={change} mayGo={i > 0} />
      ))}
      {settings.on && (
        <>
          <h3>There to be connected to</h3>
          {settings.sessions.length > 1 && (
            <Labelled label="Connect in session">
              <EditSelect aria-label="Session to connect in" value={into} options={settings.sessions.map(({ name }) => ({ value: name, label: name }))} onChange={choose} />
            </Labelled>
          )}
          {found.length === 0 && <p className={shared.empty}>Nobody else announces a session in this network.</p>}
          <ul className={shared.editable}>
            {found.map(({ name, address }) => (
              <li key={`${name} ${address}`}>
                <span className={styles.name}>{name}</span>
                <span className={styles.quiet}>{address}</span>
                <EditButton onClick={() => invite({ name })}>Connect</EditButton>
              </li>
            ))}
          </ul>
          <ByAddress onAdd={(name, address, port) => invite({ name, at: { address, port } })} />
        </>
      )}
      <AddSession onAdd={(name) => void change(({ sessions }) => ({ sessions: [...sessions, { name, port: Math.max(...sessions.map(({ port }) => port)) + PORTS_APART }] }))} />
      {settings.known.length > 0 && (
        <>
          <h3>Asked about once</h3>
          <ul className={shared.editable}>
            {settings.known.map(({ name, address, may }) => (
              <li key={`${name} ${address}`}>
                <span className={styles.name}>{name}</span>
                <span className={styles.quiet}>
                  {may ? 'let in' : 'refused'}, {address}
                </span>
                <EditButton type="text" aria-label={`Forget ${name}`} onClick={() => void change(({ known }) => ({ known: known.filter((one) => one.name !== name || one.address !== address) }))}>
                  ✕
                </EditButton>
              </li>
            ))}
          </ul>
        </>
      )}
    </Aside>
  );
}

type Change = (set: (before: NetworkSettings) => Partial<NetworkSettings>) => Promise<void>;

interface SessionProps {
  session: NetworkSettings['sessions'][number];
  state: NetworkState['sessions'][number] | undefined;
  on: boolean;
  settings: NetworkSettings;
  change: Change;
  mayGo: boolean;
}

function Session({ session: { name, port }, state, on, settings, change, mayGo }: SessionProps) {
  const peers = state?.peers ?? [];
  const invited = settings.invited.filter((one) => one.session === name);
  // Those that announce themselves and are not there now.
  const missing = invited.filter((one) => !peers.some((peer) => peer.name === one.name));
  const withdraw = (of: string) => change(({ invited: before }) => ({ invited: before.filter((one) => one.session !== name || one.name !== of) }));
  return (
    <section aria-label={`Session ${name}`} className={styles.session}>
      <div className={styles.head}>
        <h3>{name}</h3>
        {mayGo && (
          <EditButton type="text" aria-label={`Remove session ${name}`} onClick={() => void change(({ sessions, invited: before }) => ({ sessions: sessions.filter((one) => one.name !== name), invited: before.filter((one) => one.session !== name) }))}>
            ✕
          </EditButton>
        )}
      </div>
      <p className={styles.quiet}>
        {on && state ? `Others see it as ${state.announced}; ` : ''}UDP ports {port} and {port + 1}.
      </p>
      {state?.problem && <p className={styles.trouble}>{state.problem}.</p>}
      {on && peers.length + missing.length === 0 && <p className={shared.empty}>Nobody is in it yet.</p>}
      <ul className={shared.editable}>
        {peers.map((peer) => (
          <li key={peer.id}>
            <span className={styles.name}>{peer.name}</span>
            <span className={styles.quiet}>{peerInWords(peer)}</span>
            {!invited.some((one) => one.name === peer.name) ? (
              <span />
            ) : (
              <EditButton type="text" aria-label={`Disconnect ${peer.name}`} onClick={() => void withdraw(peer.name)}>
                ✕
              </EditButton>
            )}
          </li>
        ))}
        {on &&
          missing.map((one) => (
            <li key={one.name}>
              <span className={styles.name}>{one.name}</span>
              <span className={styles.quiet}>is not here</span>
              <EditButton type="text" aria-label={`Disconnect ${one.name}`} onClick={() => void withdraw(one.name)}>
                ✕
              </EditButton>
            </li>
          ))}
      </ul>
    </section>
  );
}

function peerInWords({ open, invited, address, wayMs, lost }: NetworkPeerState): string {
  if (!open) return invited ? `is called at ${address}` : `comes from ${address}`;
  const delay = wayMs === null ? '' : `, ${(wayMs / 2).toFixed(1)} ms away`;
  return `connected, ${address}${delay}${lost > 0 ? `, ${lost} lost and repaired` : ''}`;
}

function ByAddress({ onAdd }: { onAdd: (name: string, address: string, port: number) => void }) {
  const [name, setName] = useState('');
  const [address, setAddress] = useState('');
  const [port, setPort] = useState<number | null>(5004);
  const isWhole = name.trim() !== '' && isIpAddress(hostFrom(address)) && port !== null;
  return (
    <div className={styles.byAddress}>
      <EditInput aria-label="Name of the other session" placeholder="Name" value={name} maxLength={80} onChange={({ target }) => setName(target.value)} />
      <EditInput aria-label="Its IP address" placeholder="192.168.1.20" value={address} onChange={({ target }) => setAddress(target.value)} />
      <NumberBox label="Its first port" min={1024} max={65534} whole value={port} onChange={setPort} onEmpty={() => setPort(null)} />
      <EditButton
        disabled={!isWhole}
        onClick={() => {
          onAdd(name.trim(), hostFrom(address), port!);
          setName('');
          setAddress('');
        }}
      >
        Connect by address
      </EditButton>
    </div>
  );
}

function AddSession({ onAdd }: { onAdd: (name: string) => void }) {
  const [name, setName] = useState('');
  const add = () => {
    if (name.trim() === '') return;
    onAdd(name.trim());
    setName('');
  };
  return (
    <Labelled label="One more session">
      <EditInput placeholder="Name" maxLength={40} value={name} onChange={({ target }) => setName(target.value)} onPressEnter={add} onBlur={add} />
    </Labelled>
  );
}
