import { Input, Select } from 'antd';
import type { Filter } from '../../../core/mapping/filter';
import type { RigDocument } from '../../../core/rig/document';
import styles from './MappingFilter.module.css';

interface MappingFilterProps {
  rig: RigDocument;
  filter: Filter;
  shown: number;
  onChange: (filter: Filter) => void;
}

const ANY = '';

/** Finds mappings among many: by words, input, output, channel, and how they are. */
export function MappingFilter({ rig, filter, shown, onChange }: MappingFilterProps) {
  const of = (things: readonly { id: string; name: string }[], any: string) => [{ value: ANY, label: any }, ...things.map(({ id, name }) => ({ value: id, label: name }))];
  const all = rig.mappings.length + rig.voiceMappings.length;
  return (
    <div className={styles.mappingFilter} role="search">
      <Input allowClear aria-label="Search mappings" placeholder="Search" value={filter.text} onChange={({ target }) => onChange({ ...filter, text: target.value })} />
      <Select aria-label="Input" value={filter.input ?? ANY} options={of(rig.inputs, 'Every input')} onChange={(input) => onChange({ ...filter, input: input || null })} />
      <Select aria-label="Output" value={filter.output ?? ANY} options={of(rig.outputs, 'Every output')} onChange={(output) => onChange({ ...filter, output: output || null })} />
      <Select
        aria-label="Channel"
        value={filter.channel ?? 0}
        options={[{ value: 0, label: 'Every channel' }, ...Array.from({ length: 16 }, (_, i) => ({ value: i + 1, label: `Channel ${i + 1}` }))]}
        onChange={(channel) => onChange({ ...filter, channel: channel || null })}
      />
      <Select
        aria-label="State"
        value={filter.state ?? ANY}
        options={[
          { value: ANY, label: 'On and off' },
          { value: 'on', label: 'On' },
          { value: 'off', label: 'Off' },
          { value: 'clash', label: 'In a clash' },
          { value: 'silent', label: 'Silent for 10 s' },
        ]}
        onChange={(state) => onChange({ ...filter, state: (state || null) as Filter['state'] })}
      />
      <span role="status">{shown < all ? `${shown} of ${all}` : ''}</span>
    </div>
  );
}
