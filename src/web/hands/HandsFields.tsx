import { Select, Switch } from 'antd';
import type { HandsProfile } from '../../core/hands/profile';
import { Field } from '../panels/shared/Field';
import shared from '../theme/devicePage.module.css';

interface HandsFieldsProps {
  profile: HandsProfile;
  onChange: (set: Partial<HandsProfile>) => void;
}

/** How hands are shown, looked for and understood. */
export function HandsFields({ profile, onChange }: HandsFieldsProps) {
  const { mirrored, drawn, model, hands, whenLost, steady } = profile;
  return (
    <>
      <fieldset className={shared.part}>
        <legend>Picture</legend>
        <Field label="As in a mirror">
          <Switch aria-label="As in a mirror" checked={mirrored} onChange={(on) => onChange({ mirrored: on })} />
        </Field>
        <Field label="Hands drawn">
          <Switch aria-label="Hands drawn" checked={drawn} onChange={(on) => onChange({ drawn: on })} />
        </Field>
      </fieldset>
      <fieldset className={shared.part}>
        <legend>Looking</legend>
        <Field label="Model">
          <Select aria-label="Model" value={model} options={[{ value: 'fast' as const, label: 'fast' }, { value: 'exact' as const, label: 'exact, and slower' }]} onChange={(to) => onChange({ model: to })} />
        </Field>
        <Field label="Hands">
          <Select aria-label="Hands that are looked for" value={hands} options={[{ value: 1 as const, label: 'one, faster' }, { value: 2 as const, label: 'two' }]} onChange={(to) => onChange({ hands: to })} />
        </Field>
        <Field label="Steady">
          <Switch aria-label="Signals are made steady" checked={steady} onChange={(on) => onChange({ steady: on })} />
        </Field>
        <Field label="A lost hand">
          <Select aria-label="A hand that is lost" value={whenLost} options={[{ value: 'hold' as const, label: 'holds its numbers' }, { value: 'rest' as const, label: 'goes to rest' }]} onChange={(to) => onChange({ whenLost: to })} />
        </Field>
        <p className={shared.said}>Either way its gates end, and with them its notes.</p>
      </fieldset>
    </>
  );
}
