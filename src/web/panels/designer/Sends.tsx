import { Select } from 'antd';
import { useState } from 'react';
import type { RigControl } from '../../../core/rig/document';
import { rolesOf } from '../../../core/surface/controlKinds';
import { mapRole } from '../../../core/surface/make';
import { Field } from '../shared/Field';
import { MessageFields } from '../shared/MessageFields';
import type { DesignerDesk } from './useDesigner';
import { addressInWords } from '../../../core/messages';
import { throughOutput, withMessage } from '../../../core/ledger/throughOutput';
import { EditButton, EditSelect } from '../shared/edit';
import { ScreenLink } from '../shared/ScreenLink';
import properties from './properties.module.css';

/** What each signal of a control sends, changeable right there; its shaping is on the screen Mappings like that of any other. */
export function Sends({ control, desk: { rig, work } }: { control: RigControl; desk: DesignerDesk }) {
  const roles = rolesOf(control);
  const [wanted, setRole] = useState(roles[0]?.role ?? '');
  const role = roles.find((candidate) => candidate.role === wanted) ?? roles[0];
  if (!role) return null;
  const signal = control.signals[role.role]!;
  const mappings = rig.mappings.filter((mapping) => mapping.signal === signal);
  const nameOf = (id: string) => rig.signals.find((candidate) => candidate.id === id)?.name ?? id;
  return (
    <>
      <h3>Sends</h3>
      {roles.length > 1 && (
        <Field label="Signal">
          <Select aria-label="Signal of the control" value={role.role} showSearch={{ optionFilterProp: 'label' }} options={roles.map((each) => ({ value: each.role, label: nameOf(control.signals[each.role]!) }))} onChange={setRole} />
        </Field>
      )}
      {mappings.map((mapping) => (
        <div key={mapping.id} className={properties.sent} data-sent>
          <ScreenLink href={`/mappings#${encodeURIComponent(mapping.id)}`} title="To its shaping">
            {mapping.name}: {addressInWords(mapping.message)} →
          </ScreenLink>
          <Field label="To">
            <EditSelect aria-label={`Output of ${mapping.name}`} value={mapping.output} options={rig.outputs.map(({ id, name }) => ({ value: id, label: name }))} onChange={(output) => work((bench) => bench.put({ list: 'mappings', id: mapping.id, to: { ...mapping, ...throughOutput(rig, mapping, output) } }))} />
          </Field>
          <MessageFields message={mapping.message} mapping={mapping.id} rig={rig} output={mapping.output} onChange={(message) => work((bench) => bench.put({ list: 'mappings', id: mapping.id, to: { ...mapping, ...withMessage(rig, mapping, message) } }))} />
        </div>
      ))}
      <EditButton onClick={() => work((bench) => mapRole(bench, control, role))}>
        {mappings.length === 0 ? 'Give it a message' : 'One more message'}
      </EditButton>
    </>
  );
}
