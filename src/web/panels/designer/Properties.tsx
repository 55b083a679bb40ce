import { Button } from 'antd';
import type { RigControl, RigSurface, TouchBehaviour } from '../../../core/rig/document';
import { bounds, LEAST_SIDE, type Size } from '../../../core/surface/arrange';
import { CONTROL_KINDS } from '../../../core/surface/controlKinds';
import { hasSensitivity } from '../../../core/surface/controlTouch';
import { EditButton, EditInput, EditPlainButton, EditSelect, EditSwitch, Locked } from '../shared/edit';
import { Field } from '../shared/Field';
import { NumberBox } from '../shared/NumberBox';
import { KindFields } from './KindFields';
import { Sends } from './Sends';
import { Springs } from './Springs';
import { withoutField, type DesignerDesk } from './useDesigner';
import properties from './properties.module.css';
import shared from '../shared/shared.module.css';

interface PropertiesProps {
  surface: RigSurface;
  desk: DesignerDesk;
  artboard: Size;
  onOpenFold: (id: string) => void;
}

/** Kinds whose finger may move them in more than one way. */
const BEHAVING: ReadonlySet<RigControl['kind']> = new Set(['fader', 'dial', 'xy', 'faders', 'tracks', 'strip']);
/** On a pad of several points each finger is one. */
const isRefinable = (control: RigControl) => control.kind !== 'xy' || (control.fingers ?? 1) === 1;
const BEHAVIOURS: { value: TouchBehaviour['kind'] | 'own'; label: string }[] = [
  { value: 'own', label: 'as its kind does' },
  { value: 'jump', label: 'jump to the finger' },
  { value: 'pickUp', label: 'pick up where it is' },
  { value: 'softTakeover', label: 'wait for the finger (soft takeover)' },
  { value: 'relative', label: 'relative' },
];

/** What is said of the marked controls. */
export function Properties({ surface, desk, artboard, onOpenFold }: PropertiesProps) {
  const { chosen } = desk;
  const [only] = chosen;
  if (chosen.length > 1) return <Several surface={surface} desk={desk} />;
  const control = only!;
  const { frame, behaviour } = control;
  const setFrame = (change: Partial<typeof frame>) => {
    const next = { ...frame, ...change };
    desk.place([{ ...next, x: Math.max(0, Math.min(next.x, artboard.width - next.width)), y: Math.max(0, Math.min(next.y, artboard.height - next.height)) }]);
  };
  return (
    <>
      <h2>{CONTROL_KINDS[control.kind].name}</h2>
      <Field label="Label">
        <EditInput key={`${control.id} ${control.label}`} aria-label="Label" defaultValue={control.label} maxLength={80} placeholder="shows what it sends" onBlur={({ target }) => target.value !== control.label && desk.change({ ...control, label: target.value.trim() })} onPressEnter={({ currentTarget }) => currentTarget.blur()} />
      </Field>
      <Locked when={control.locked === true}>
        <div className={properties.frameFields}>
        {([['x', 'X', 0, artboard.width], ['y', 'Y', 0, artboard.height], ['width', 'Width', LEAST_SIDE, artboard.width], ['height', 'Height', LEAST_SIDE, artboard.height]] as const).map(([key, label, min, max]) => (
          <label key={key}>
            <span>{label}</span>
            <NumberBox label={label} min={min} max={max} whole value={frame[key]} onChange={(value) => setFrame({ [key]: value })} />
          </label>
        ))}
        </div>
      </Locked>
      <KindFields control={control} surface={surface} desk={desk} onOpenFold={onOpenFold} />
      <Colours surface={surface} desk={desk} />
      {BEHAVING.has(control.kind) && (
        <>
          <h3>Touch</h3>
          <Field label="Finger">
            <EditSelect aria-label="Touch behaviour" value={behaviour?.kind ?? 'own'} options={BEHAVIOURS} onChange={(kind: TouchBehaviour['kind'] | 'own') => desk.change(kind === 'own' ? withoutField('behaviour')(control) : { ...control, behaviour: { kind, sensitivity: behaviour?.sensitivity ?? 1 } })} />
          </Field>
          {behaviour && hasSensitivity(control) && (
            <Field label="Sensitivity">
              <NumberBox label="Sensitivity" min={0.01} max={100} step={0.1} value={behaviour.sensitivity} onChange={(sensitivity) => desk.change({ ...control, behaviour: { ...behaviour, sensitivity } })} />
            </Field>
          )}
          <p className={shared.quiet}>{isRefinable(control) ? 'A second finger on it, or the Shift key, makes the first one fine' : 'The Shift key makes it fine'}: an eighth of the way.</p>
          <Springs control={control} desk={desk} />
        </>
      )}
      <Sends control={control} desk={desk} />
      <Actions desk={desk} />
    </>
  );
}

function Several({ surface, desk }: { surface: RigSurface; desk: DesignerDesk }) {
  const around = bounds(desk.chosen.map(({ frame }) => frame))!;
  return (
    <>
      <h2>{desk.chosen.length} controls</h2>
      <p className={shared.quiet}>{`${around.width} × ${around.height} at ${around.x}, ${around.y}`}</p>
      <Colours surface={surface} desk={desk} />
      {desk.chosen.some(({ group }) => group !== undefined) && (
        <EditButton onClick={desk.ungroup}>
          Ungroup
        </EditButton>
      )}
      <Actions desk={desk} />
    </>
  );
}

function Colours({ surface: { palette = [] }, desk }: { surface: RigSurface; desk: DesignerDesk }) {
  const { chosen } = desk;
  const now = chosen[0]?.colour;
  return (
    <div className={`${properties.palette} ${properties.colourChoice}`} role="radiogroup" aria-label="Colour">
      <span>Colour</span>
      <EditPlainButton type="button" role="radio" aria-checked={now === undefined} className={properties.plain} aria-label="The plain colour" onClick={() => desk.colour(null)} />
      {palette.map((colour, i) => (
        <EditPlainButton key={i} type="button" role="radio" aria-checked={now === i} aria-label={`Colour ${i + 1}, ${colour}`} style={{ background: colour }} onClick={() => desk.colour(i)} />
      ))}
      {palette.length === 0 && <small className={shared.quiet}>(the surface has no other)</small>}
    </div>
  );
}

function Actions({ desk }: { desk: DesignerDesk }) {
  const { chosen } = desk;
  const locked = chosen.every((control) => control.locked);
  return (
    <>
      <Field label="Locked">
        <EditSwitch aria-label="Locked" checked={locked} onChange={desk.lock} />
      </Field>
      <div className={properties.actions}>
        <Button onClick={desk.copy}>Copy</Button>
        <EditButton onClick={desk.paste}>
          Paste
        </EditButton>
        <EditButton danger disabled={locked} onClick={desk.remove}>
          Delete
        </EditButton>
      </div>
    </>
  );
}
