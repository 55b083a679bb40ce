import { Select } from 'antd';
import { useEffect, useState } from 'react';
import type { RigSurface } from '../../../core/rig/document';
import { JOIN, type JoinCode, type JoinedDevice, type Joining } from '../../../protocol/devices';
import { EditButton, EditSelect, EditSwitch } from '../shared/edit';
import { NumberBox } from '../shared/NumberBox';
import { NameField } from '../shared/NameField';
import { useRig } from '../shell/useRig';
import { QrCode } from './QrCode';
import { useJoining } from './useJoining';
import styles from './JoinedDevices.module.css';
import shared from '../shared/shared.module.css';

const MOTION_ONLY = '';

/** Tablets and phones: the switch of the network, the code that lets them in, and those that have joined. */
export function JoinedDevices() {
  const { document: rig } = useRig();
  const { joining, present, setLan, makeCode, change, drop } = useJoining();
  const [surface, setSurface] = useState<string>();
  const [admits, setAdmits] = useState(1);
  if (!joining) return null;
  const { lan, https, port, addresses, problems, code, devices } = joining;
  const chosen = surface ?? rig.surfaces[0]?.id ?? MOTION_ONLY;
  return (
    <section className={styles.joinedDevices} aria-labelledby="joined-title">
      <h2 id="joined-title">Joined devices</h2>
      <div className={styles.lan}>
        <EditSwitch checked={lan} onChange={(on) => void setLan(on)} aria-labelledby="lan-label" />
        <div>
          <strong id="lan-label">Reachable from the network</strong>
          <p>
            {!lan && 'Pumice listens on this computer alone. Switched on, a device with a code can join from its browser; nobody else sees or sends anything.'}
            {lan && addresses.length === 0 && 'This computer is in no network now. Pumice looks again every few seconds.'}
            {lan && addresses.length > 0 && `Reachable at ${addresses.map((address) => `${address}:${port}`).join(', ')}. Only devices that joined see or send anything.`}
          </p>
          {problems.map((sentence) => (
            <p key={sentence} className={shared.trouble}>
              {sentence}
            </p>
          ))}
        </div>
      </div>
      {lan && addresses.length > 0 && (
        <div className={styles.letting}>
          <label>
            The next{' '}
            <NumberBox label="Devices that the code lets in" value={admits} min={1} max={JOIN.admits} whole onChange={setAdmits} /> {admits === 1 ? 'device gets' : 'devices get'}{' '}
            <EditSelect value={chosen} onChange={setSurface} options={surfaceOptions(rig.surfaces, null)} style={{ minWidth: 180 }} />
          </label>
          <EditButton type={code ? 'default' : 'primary'} onClick={() => void makeCode(chosen === MOTION_ONLY ? null : chosen, admits)}>
            {code ? 'Another code' : 'Let a device join'}
          </EditButton>
        </div>
      )}
      {code && <CodeCard code={code} joining={joining} surfaces={rig.surfaces} />}
      {lan && !https && (
        <p className={shared.quiet}>
          On a page that is not secure the screen of a device may fall asleep, so switch off its auto-lock, and motion sensors, microphone and camera are not lent: for those start Pumice with “npm run demo -- --https”.
        </p>
      )}
      {devices.length === 0 ? (
        <p className={shared.quiet}>No tablet or phone has joined yet.</p>
      ) : (
        <ul className={styles.devices} data-devices>
          {devices.map((device) => (
            <DeviceLineItem key={device.id} device={device} present={present.includes(device.id)} surfaces={rig.surfaces} onChange={(set) => void change(device.id, set)} onDrop={() => void drop(device.id)} />
          ))}
        </ul>
      )}
    </section>
  );
}

/** The code as digits and as a picture, with the time that it is still good for. */
function CodeCard({ code: { code, surface, untilMs, admits }, joining: { addresses, https, port }, surfaces }: { code: JoinCode; joining: Joining; surfaces: RigSurface[] }) {
  const [address, setAddress] = useState<string>();
  const [nowMs, setNowMs] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNowMs(Date.now()), 1000);
    return () => clearInterval(timer);
  }, []);
  const chosen = address !== undefined && addresses.includes(address) ? address : addresses[0];
  const leftS = Math.max(0, Math.round((untilMs - nowMs) / 1000));
  if (chosen === undefined || leftS === 0) return null;
  // With TLS the plain page comes first: it explains how the device learns to trust the secure one.
  const url = `http://${chosen}:${port}/join?code=${code}`;
  return (
    <div className={styles.joinCode} role="group" aria-label="Code for the next device">
      <QrCode text={url} label={`QR code of ${url}`} />
      <div>
        <p>Point the camera of the device here, or open</p>
        <p className={styles.address}>{`${chosen}:${port}/join`}</p>
        {addresses.length > 1 && <Select aria-label="Network" size="small" value={chosen} onChange={setAddress} options={addresses.map((each) => ({ value: each, label: each }))} />}
        <p>and type</p>
        <p className={styles.digits} data-code>{`${code.slice(0, 3)} ${code.slice(3)}`}</p>
        <p className={shared.quiet}>
          For {surfaces.find(({ id }) => id === surface)?.name ?? 'motion sensors'}, {admits === 1 ? 'one device' : `${admits} devices`}; good for {Math.floor(leftS / 60)}:{String(leftS % 60).padStart(2, '0')} more.
          {https && ' The page explains the one step that makes the device trust this computer.'}
        </p>
      </div>
    </div>
  );
}

interface DeviceLineItemProps {
  device: JoinedDevice;
  present: boolean;
  surfaces: RigSurface[];
  onChange: (set: { name?: string; surface?: string | null }) => void;
  onDrop: () => void;
}

function DeviceLineItem({ device: { name, surface, width, height }, present, surfaces, onChange, onDrop }: DeviceLineItemProps) {
  return (
    <li data-present={present}>
      <NameField label={`Name of the device ${name}`} name={name} className={shared.quietInput} onChange={(next) => onChange({ name: next })} />
      <span className={styles.presence}>{present ? 'here' : 'not here'}</span>
      <span className={shared.quiet}>{`${width} × ${height}`}</span>
      <EditSelect aria-label={`Surface of ${name}`} value={surface ?? MOTION_ONLY} onChange={(next) => onChange({ surface: next === MOTION_ONLY ? null : next })} options={surfaceOptions(surfaces, surface)} />
      <EditButton danger aria-label={`Drop ${name}`} onClick={onDrop}>
        Drop
      </EditButton>
    </li>
  );
}

/** @param given a surface that may be of another rig; it stays to be seen */
function surfaceOptions(surfaces: RigSurface[], given: string | null) {
  const here = surfaces.map(({ id, name }) => ({ value: id, label: name }));
  const elsewhere = given !== null && !surfaces.some(({ id }) => id === given) ? [{ value: given, label: `${given} (not in this rig)` }] : [];
  return [...here, ...elsewhere, { value: MOTION_ONLY, label: 'its motion sensors only' }];
}
