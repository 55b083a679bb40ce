import { App } from 'antd';
import { useRouter } from 'next/navigation';
import type { RigSurface } from '../../../core/rig/document';
import { removeInput } from '../../../core/rig/remove';
import { bounds } from '../../../core/surface/arrange';
import { setBanks } from '../../../core/surface/banks';
import { LIMITS_OF_CONTROLS } from '../../../core/surface/controlKinds';
import { calledBy } from '../../../core/surface/make';
import { BENCH, STAGE } from '../../theme/tokens';
import { contrast } from '../../theme/contrast';
import { EditButton, EditColor, EditPlainButton, EditSwitch } from '../shared/edit';
import { nameFrom } from '../shared/fromText';
import { Field } from '../shared/Field';
import { NumberBox } from '../shared/NumberBox';
import { TextField } from '../shared/TextField';
import type { DesignerDesk } from './useDesigner';
import properties from './properties.module.css';
import shared from '../shared/shared.module.css';

/** Graphics must stand out from what is beside them by this much (WCAG 2.2, 1.4.11). */
const LEAST_CONTRAST = 3;
const FRESH_COLOURS = ['#7a8b3c', '#9a5fa8', '#3f8f7f', '#c0653a', '#5872b8', '#a3763d'];

interface SurfacePropertiesProps {
  surface: RigSurface;
  desk: DesignerDesk;
  /** Told once a control was marked in the list. */
  onMarked: () => void;
}

/** What is said of the surface as a whole, and its controls as a list. */
export function SurfaceProperties({ surface, desk, onMarked }: SurfacePropertiesProps) {
  const { message } = App.useApp();
  const router = useRouter();
  const { work, controls, mark } = desk;
  const set = (change: Partial<RigSurface>) => work((bench) => bench.put({ list: 'surfaces', id: surface.id, to: { ...bench.surface(surface.id), ...change } }));
  const palette = surface.palette ?? [];
  const whole = bounds(surface.pages.flatMap((page) => page.controls.map(({ frame }) => frame)));
  const resize = (change: Partial<Pick<RigSurface, 'width' | 'height'>>) => {
    const size = { width: surface.width, height: surface.height, ...change };
    set(change);
    if (whole && (whole.x + whole.width > size.width || whole.y + whole.height > size.height)) void message.warning('Some controls lie outside of this size now: mark all (Ctrl+A) and move them in.', 5);
  };
  const rename = (name: string) =>
    work((bench) => {
      const input = bench.rig.inputs.find((candidate) => candidate.id === bench.inputOf(surface))!;
      bench.put({ list: 'surfaces', id: surface.id, to: { ...bench.surface(surface.id), name } }, { list: 'inputs', id: input.id, to: { ...input, name: input.name === surface.name ? name : input.name } });
    });
  const remove = () => {
    work((bench) => bench.put(...removeInput(bench.rig, bench.inputOf(surface))));
    void message.info(`${surface.name} is gone with its mappings; Ctrl+Z brings it back.`);
    router.push('/surfaces');
  };
  const banks = surface.banks ?? [];
  const putBanks = (names: string[]) => work((bench) => setBanks(bench, surface.id, names));
  return (
    <>
      <h2>Surface</h2>
      <Field label="Name">
        <TextField label="Name of the surface" value={surface.name} maxLength={80} parse={nameFrom} onChange={rename} />
      </Field>
      <Field label="Width">
        <NumberBox label="Width of the surface" min={100} max={8192} whole value={surface.width} onChange={(width) => resize({ width })} />
      </Field>
      <Field label="Height">
        <NumberBox label="Height of the surface" min={100} max={8192} whole value={surface.height} onChange={(height) => resize({ height })} />
      </Field>
      <h3>Colours</h3>
      <div className={properties.palette}>
        {palette.map((colour, i) => (
          <EditColor key={i} value={colour} disabledAlpha onChangeComplete={(next) => set({ palette: palette.with(i, next.toHexString().slice(0, 7)) })}>
            <EditPlainButton type="button" aria-label={`Colour ${i + 1}, ${colour}`} style={{ background: colour }} />
          </EditColor>
        ))}
        {palette.length < LIMITS_OF_CONTROLS.paletteColours && (
          <EditButton onClick={() => set({ palette: [...palette, FRESH_COLOURS[palette.length % FRESH_COLOURS.length]!] })}>
            + Colour
          </EditButton>
        )}
      </div>
      {palette.map((colour, i) => {
        const weak = [['Bench', BENCH.raised] as const, ['Stage', STAGE.raised] as const].filter(([, ground]) => contrast(colour, ground) < LEAST_CONTRAST);
        return weak.length === 0 ? null : (
          <p key={i} className={shared.trouble}>
            Colour {i + 1} is hard to see on the {weak.map(([name]) => name).join(' and on the ')}: its contrast is {weak.map(([, ground]) => contrast(colour, ground).toFixed(1)).join(' and ')}, and it should be {LEAST_CONTRAST} at least.
          </p>
        );
      })}
      <h3>Pages</h3>
      <Field label="A strip for pages without tabs">
        <EditSwitch aria-label="Strip of pages" checked={surface.pageStrip !== false} onChange={(on) => set({ pageStrip: on })} />
      </Field>
      <h3>Banks</h3>
      <p className={shared.quiet}>The same controls with the next numbers; put bank tabs on the surface, or let a scene turn to one.</p>
      {banks.map((name, i) => (
        <Field key={i} label={`Bank ${i + 1}`}>
          <TextField label={`Name of bank ${i + 1}`} value={name} maxLength={40} parse={nameFrom} onChange={(next) => set({ banks: banks.with(i, next) })} />
        </Field>
      ))}
      <div className={properties.actions}>
        <EditButton disabled={banks.length >= LIMITS_OF_CONTROLS.banks} onClick={() => putBanks(banks.length === 0 ? ['Bank 1', 'Bank 2'] : [...banks, `Bank ${banks.length + 1}`])}>
          + Bank
        </EditButton>
        {banks.length > 0 && (
          <EditButton onClick={() => putBanks(banks.slice(0, -1))}>
            − Last bank
          </EditButton>
        )}
      </div>
      <h3>On this page</h3>
      {controls.length === 0 ? (
        <p className={shared.quiet}>Nothing yet: press a control on the left, or drag it onto the canvas.</p>
      ) : (
        <ol className={properties.controlList} data-controls>
          {controls.map((control) => (
            <li key={control.id}>
              <button
                type="button"
                onClick={() => {
                  mark([control.id]);
                  onMarked();
                }}
              >
                {calledBy(control)}
              </button>
            </li>
          ))}
        </ol>
      )}
      <EditButton danger onClick={remove}>
        Delete this surface
      </EditButton>
    </>
  );
}
