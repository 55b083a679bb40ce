import type { BandPlace } from './MappingBand';
import bands from './bands.module.css';

interface GroupHeadingProps {
  place: BandPlace;
  group: string;
  count: number;
  folded: boolean;
  onFold: () => void;
}

export function GroupHeading({ place, group, count, folded, onFold }: GroupHeadingProps) {
  return (
    <li className={bands.bandHeading} {...place}>
      <button type="button" aria-expanded={!folded} onClick={onFold}>
        <span aria-hidden>{folded ? '▸' : '▾'}</span> {group} <small>{count}</small>
      </button>
    </li>
  );
}
