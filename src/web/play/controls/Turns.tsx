import type { ControlOf } from '../../../core/rig/document';
import { usePlaying } from '../PlayContext';
import { Shell } from './Shell';

/** Turns to a page, while the finger comes down: waiting for it to lift would feel late. */
export function PageTab({ control }: { control: ControlOf<'page'> }) {
  const { page, pages, turnTo } = usePlaying();
  const target = pages.find(({ id }) => id === control.page);
  const turn = () => target && turnTo(target.id);
  return (
    <Shell control={control.label ? control : { ...control, label: target?.name ?? 'no page chosen' }} look="tab" role="button" tabIndex={0} data-on={target?.id === page} aria-pressed={target?.id === page} onPointerDown={turn} onKeyDown={({ key }) => (key === 'Enter' || key === ' ') && turn()} />
  );
}

/** The banks of the surface, of which one is on. */
export function BankTabs({ control }: { control: ControlOf<'bank'> }) {
  const { bank, banks, turnToBank } = usePlaying();
  return (
    <Shell control={control} look="choice banks" role="group">
      <div className="row">
        {(banks.length > 0 ? banks : ['no banks yet']).map((name, i) => (
          <div className="slab" key={i} data-on={i === bank} role="button" tabIndex={0} aria-pressed={i === bank} onPointerDown={() => turnToBank(i)} onKeyDown={({ key }) => (key === 'Enter' || key === ' ') && turnToBank(i)}>
            {name}
          </div>
        ))}
      </div>
    </Shell>
  );
}

/** Recalls a scene. */
export function SceneButton({ control }: { control: ControlOf<'scene'> }) {
  const { recall } = usePlaying();
  const press = () => control.scene !== null && recall(control.scene);
  return <Shell control={control} look="scene-button" role="button" tabIndex={0} onPointerDown={press} onKeyDown={({ key }) => (key === 'Enter' || key === ' ') && press()} />;
}

/** Words on the surface. */
export function Label({ control }: { control: ControlOf<'label'> }) {
  return <Shell control={control} look="words" />;
}
