import { Button, Segmented, Slider } from 'antd';
import { useState } from 'react';
import { STAND_INS } from '../../../core/standIn';
import type { Knob, StandIn, StandInSettings } from '../../../core/standIn/standIn';
import type { StandInState } from '../../../protocol/live';
import styles from './StandIns.module.css';
import shared from '../shared/shared.module.css';
import { useTellNow } from '../shell/useTellNow';

const PERCENT = 100;

/** Simulated inputs, ready to be started: everything can be tried with nothing plugged in. */
export function StandIns({ states }: { states: readonly StandInState[] }) {
  return (
    <section className={styles.standIns} aria-labelledby="stand-ins-title">
      <h2 id="stand-ins-title">Stand-ins</h2>
      <p className={shared.empty}>Simulated inputs that behave, and misbehave, like real ones.</p>
      <div className={styles.tiles}>
        {STAND_INS.map((standIn) => (
          <Tile key={standIn.id} standIn={standIn} state={states.find(({ id }) => id === standIn.id)} />
        ))}
      </div>
    </section>
  );
}

function Tile({ standIn, state }: { standIn: StandIn; state: StandInState | undefined }) {
  const tellNow = useTellNow();
  const on = state?.on ?? false;
  const settings = state?.settings ?? standIn.defaults;
  const tell = (change: { on?: boolean; settings?: Partial<StandInSettings> }) => tellNow({ kind: 'standIn', standIn: standIn.id, ...change });
  return (
    <article className={styles.standIn} data-on={on} aria-label={`Stand-in ${standIn.name}`}>
      <header>
        <h3>{standIn.name}</h3>
        <Button type={on ? 'default' : 'primary'} disabled={!state} onClick={() => tell({ on: !on })}>
          {on ? 'Stop' : 'Start'}
        </Button>
      </header>
      <p>{standIn.about}</p>
      {on && (
        <>
          <Segmented
            aria-label={`How ${standIn.name} moves`}
            block
            value={settings.byItself ? 'itself' : 'hand'}
            options={[
              { value: 'itself', label: 'By itself' },
              { value: 'hand', label: 'By hand' },
            ]}
            onChange={(how) => tell({ settings: { byItself: how === 'itself' } })}
          />
          {!settings.byItself && <Knobs standIn={standIn} />}
          <Amount label="Noise" most={0.1} value={settings.noise} onChange={(noise) => tell({ settings: { noise } })} />
          <Amount label="Drift" most={0.2} value={settings.drift} onChange={(drift) => tell({ settings: { drift } })} />
          <Amount label="Faults" most={0.5} value={settings.faults} onChange={(faults) => tell({ settings: { faults } })} />
          <div className={styles.slider}>
            <span>Rate</span>
            <Slider ariaLabelForHandle="Rate" min={1} max={500} defaultValue={settings.rateHz} onChangeComplete={(rateHz) => tell({ settings: { rateHz } })} tooltip={{ formatter: (hz) => `${hz} Hz` }} />
            <span className={shared.value}>{Math.round(settings.rateHz)} Hz</span>
          </div>
        </>
      )}
    </article>
  );
}

function Amount({ label, most, value, onChange }: { label: string; most: number; value: number; onChange: (value: number) => void }) {
  return (
    <div className={styles.slider}>
      <span>{label}</span>
      <Slider ariaLabelForHandle={label} min={0} max={most} step={most / PERCENT} defaultValue={value} onChangeComplete={onChange} tooltip={{ formatter: (part) => `${((part ?? 0) * PERCENT).toFixed(1)} %` }} />
      <span className={shared.value}>{(value * PERCENT).toFixed(1)} %</span>
    </div>
  );
}

/** What a hand can move: sliders for what moves, buttons that are held for what is pressed. */
function Knobs({ standIn }: { standIn: StandIn }) {
  const tell = useTellNow();
  const move = (knob: Knob, value: number) => tell({ kind: 'knob', standIn: standIn.id, knob: knob.key, value });
  return (
    <div className={styles.knobs}>
      {standIn.knobs
        .filter(({ kind }) => kind === 'continuous')
        .map((knob) => (
          <KnobSlider key={knob.key} knob={knob} onMove={(value) => move(knob, value)} />
        ))}
      <div className={styles.knobButtons}>
        {standIn.knobs
          .filter(({ kind }) => kind === 'gate')
          .map((knob) => (
            <button
              key={knob.key}
              type="button"
              title={knob.name}
              onPointerDown={() => move(knob, 1)}
              onPointerUp={() => move(knob, 0)}
              onPointerLeave={(event) => event.buttons > 0 && move(knob, 0)}
              onPointerCancel={() => move(knob, 0)}
              onKeyDown={(event) => event.key === ' ' && !event.repeat && move(knob, 1)}
              onKeyUp={() => move(knob, 0)}
              onBlur={() => move(knob, 0)}
            >
              {knob.name}
            </button>
          ))}
      </div>
    </div>
  );
}

function KnobSlider({ knob, onMove }: { knob: Knob; onMove: (value: number) => void }) {
  const [lo, hi] = knob.range;
  const [value, setValue] = useState(knob.rest);
  return (
    <div className={styles.slider}>
      <span>{knob.name}</span>
      <Slider
        ariaLabelForHandle={knob.name}
        min={lo}
        max={hi}
        step={(hi - lo) / 500}
        value={value}
        onChange={(moved) => {
          setValue(moved);
          onMove(moved);
        }}
        tooltip={{ open: false }}
      />
      <span className={shared.value}>{value.toFixed(hi - lo > 20 ? 0 : 2)}</span>
    </div>
  );
}
