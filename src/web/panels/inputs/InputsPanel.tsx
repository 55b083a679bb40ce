'use client';

import { App, Button, Switch } from 'antd';
import { useRef, useState } from 'react';
import { addLightPoints } from '../../../core/inputs/lightPoints';
import { MOST_POINTS, USUAL_POINTS } from '../../../core/signal/points';
import { addRecording } from '../../../core/inputs/addRecording';
import type { InputsState } from '../../../protocol/live';
import { useFeeds } from '../../live/feeds/FeedsProvider';
import { postRecording } from '../../live/fetchRig';
import { useInputs, useInputsState } from '../../live/useLiveFacts';
import { EditMenu, EditSwitch } from '../shared/edit';
import { FilePicker } from '../shared/FilePicker';
import type { MenuParts } from '../shared/Menu';
import { useEdit, useRig } from '../shell/useRig';
import { CalibratePanel } from './CalibratePanel';
import { InputCard, type Opened } from './InputCard';
import { InputSettingsPanel } from './InputSettingsPanel';
import { OscPanel } from './OscPanel';
import { RawPanel } from './RawPanel';
import { SignalPanel } from './SignalPanel';
import { StandIns } from './StandIns';
import { useInputSettings } from './useInputSettings';
import styles from './InputsPanel.module.css';
import shared from '../shared/shared.module.css';

const POINTS_ADDRESS = '/lamps/points';

/** Everything that moves: one card an input, its signals beneath, stand-ins at the end. */
export function InputsPanel() {
  const { document: rig } = useRig();
  // What has rates and times is asked for where it is shown: they are others each second, and all cards would be drawn anew.
  const waiting = useInputs(waitingInWords);
  const midiProblem = useInputs((state) => state?.midiProblem ?? null);
  const standIns = useInputs((state) => state?.standIns);
  const [opened, open] = useState<Opened | null>(null);
  const [showHidden, setShowHidden] = useState(false);
  const { settings, change } = useInputSettings();
  const hidden = rig.inputs.filter((input) => input.hidden).length + rig.signals.filter((signal) => signal.hidden).length;
  // Devices come before surfaces: surfaces have a screen of their own.
  const inputs = [...rig.inputs].filter((input) => showHidden || !input.hidden).sort((a, b) => Number(a.kind === 'surface') - Number(b.kind === 'surface'));
  const toggle = (next: Opened) => open(JSON.stringify(next) === JSON.stringify(opened) ? null : next);
  return (
    <div className={styles.inputs} data-open={opened !== null}>
      <section data-scroller aria-labelledby="inputs-title">
        <div className={shared.panelHead}>
          <h1 id="inputs-title">Inputs</h1>
          <label className={shared.switchLabel}>
            <EditSwitch disabled={!settings} checked={settings?.listening ?? false} onChange={(listening) => void change({ listening })} />
            Listen for new
          </label>
          {hidden > 0 && (
            <label className={shared.switchLabel}>
              <Switch checked={showHidden} onChange={setShowHidden} />
              Show {hidden} hidden
            </label>
          )}
          <AddInput />
        </div>
        <OscLine onOpen={() => toggle({ kind: 'osc' })} />
        {midiProblem !== null && <p className={styles.oscLine}>{midiProblem}</p>}
        {waiting !== '' && !settings?.listening && <p className={shared.hint}>{waiting}</p>}
        {inputs.length === 0 && <p className={shared.empty}>Nothing here yet. Plug something in and move it, or start a stand-in below.</p>}
        {inputs.map((input) => (
          <InputCard
            key={input.id}
            input={input}
            signals={rig.signals.filter((signal) => signal.input === input.id)}
            opened={opened}
            showHidden={showHidden}
            listens={settings?.listening ?? false}
            onOpen={toggle}
          />
        ))}
        <StandIns states={standIns ?? []} />
      </section>
      {opened && <Beside opened={opened} onClose={() => open(null)} />}
    </div>
  );
}

/** What speaks and is not part of the rig; empty for nothing. */
function waitingInWords(state: InputsState | null): string {
  const waiting = (state?.feeds ?? []).filter(({ state: how, input, unknown }) => how !== 'gone' && input === null && unknown > 0);
  if (waiting.length === 0) return '';
  const one = waiting.length === 1;
  return `${waiting.map(({ name, where }) => `${name} (${where})`).join(', ')} ${one ? 'speaks and is' : 'speak and are'} not part of this rig: switch on “Listen for new” to take ${one ? 'it' : 'them'} up.`;
}

/** What is opened beside the list. An input that is removed meanwhile closes it. */
function Beside({ opened, onClose }: { opened: Opened; onClose: () => void }) {
  const { document: rig } = useRig();
  if (opened.kind === 'osc') return <OscPanel onClose={onClose} />;
  if (opened.kind === 'signal') {
    const signal = rig.signals.find(({ id }) => id === opened.id);
    return signal ? <SignalPanel key={signal.id} signal={signal} onClose={onClose} /> : null;
  }
  const input = rig.inputs.find(({ id }) => id === opened.id);
  if (!input) return null;
  switch (opened.kind) {
    case 'calibrate':
      return <CalibratePanel key={input.id} input={input} onClose={onClose} />;
    case 'raw':
      return <RawPanel key={input.id} input={input} onClose={onClose} />;
    case 'input':
      return <InputSettingsPanel key={input.id} input={input} onClose={onClose} />;
    default:
      return opened satisfies never;
  }
}

/** One line about OSC: where it is listened for, and what is wrong with that. */
function OscLine({ onOpen }: { onOpen: () => void }) {
  const state = useInputsState();
  if (!state) return null;
  const { broken, strangers, loops, tooMany } = state.leftOut;
  const left = [
    broken > 0 && `${broken} broken`,
    strangers > 0 && `${strangers} from strangers`,
    loops > 0 && `${loops} in loops`,
    tooMany > 0 && `${tooMany} too many`,
  ].filter((part) => part !== false);
  return (
    <p className={styles.oscLine}>
      <span>
        OSC on UDP {state.oscPorts.map(({ port }) => port).join(', ')}
        {state.oscPorts.map(({ port, problem, bufferBytes, askedBufferBytes }) =>
          problem ? (
            <em key={port}> · {problem}</em>
          ) : bufferBytes !== null && bufferBytes < askedBufferBytes ? (
            <span key={port}>
              {' '}
              · the system gave {Math.round(bufferBytes / 1024)} kB of {askedBufferBytes / 1024 / 1024} MB buffer
            </span>
          ) : null,
        )}
        {left.length > 0 && <em> · left out: {left.join(', ')}</em>}
      </span>
      <button type="button" className={shared.link} onClick={onOpen}>
        OSC settings
      </button>
    </p>
  );
}

/** Inputs that do not report themselves. */
function AddInput() {
  const { document: rig } = useRig();
  const edit = useEdit();
  const { message, modal } = App.useApp();
  const { computer, setComputer, midiPorts, bringMidi } = useFeeds();
  const file = useRef<HTMLInputElement>(null);
  const takeFile = async (chosen: File) => {
    try {
      const taken = await postRecording(chosen.name.replace(/\.[^.]+$/, ''), await chosen.text());
      edit({ kind: 'change', changes: addRecording(rig, taken) });
      if (taken.badLines === 0) return void message.success(`${taken.name}: ${taken.samples} samples of ${taken.signals.length} signals.`);
      modal.warning({
        title: `${taken.badLines} ${taken.badLines === 1 ? 'line was' : 'lines were'} left out of ${taken.name}`,
        content: (
          <ul>
            {taken.problems.map(({ line, message: what }) => (
              <li key={line}>
                Line {line}: {what}
              </li>
            ))}
            {taken.badLines > taken.problems.length && <li>… and {taken.badLines - taken.problems.length} more.</li>}
            <li>{taken.samples} good samples were taken.</li>
          </ul>
        ),
      });
    } catch (error) {
      void message.error((error as Error).message);
    }
  };
  const items: MenuParts['items'] = [
    { key: 'file', label: 'Recorded signals, from a file…', onClick: () => file.current?.click() },
    ...[USUAL_POINTS, MOST_POINTS].map((count) => ({ key: `points ${count}`, label: `Light points, over OSC, up to ${count}`, onClick: () => edit({ kind: 'change', changes: addLightPoints(rig, POINTS_ADDRESS, 'hold', count) }) })),
    { key: 'computer', label: computer ? 'Stop using keyboard and pointer' : 'Keyboard and pointer of this computer', onClick: () => setComputer(!computer) },
    { key: 'midi', label: midiPorts ? `MIDI of this browser: ${midiPorts.inputs.length === 0 ? 'no ports' : midiPorts.inputs.join(', ')}` : 'MIDI ports of this browser…', onClick: () => void bringMidi() },
    // A window of its own, which goes on listening while other screens are used.
    { key: 'microphone', label: 'A microphone, in a window of its own', onClick: () => void window.open('/listen', '_blank', 'noreferrer') },
    { key: 'hands', label: 'Hands before a camera, in a window of their own', onClick: () => void window.open('/hands', '_blank', 'noreferrer') },
  ];
  return (
    <>
      <EditMenu items={items}>
        <Button>Add an input</Button>
      </EditMenu>
      <FilePicker input={file} label="File of recorded signals" accept=".csv,.jsonl,.json,.txt" onFile={(chosen) => void takeFile(chosen)} />
    </>
  );
}
