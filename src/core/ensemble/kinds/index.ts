import type { MemberKind } from '../kind';
import type { MemberPart, PartKind, PartOf } from '../parts';
import { arpeggio } from './arpeggio';
import { bass } from './bass';
import { chord } from './chord';
import { echo } from './echo';
import { pattern } from './pattern';
import { stream } from './stream';
import { strum } from './strum';

/** Everything that a member of an ensemble can do. */
export const MEMBERS: { [K in PartKind]: MemberKind<PartOf<K>> } = { chord, strum, bass, arpeggio, pattern, stream, echo } as { [K in PartKind]: MemberKind<PartOf<K>> };
export const PART_KINDS = Object.keys(MEMBERS) as PartKind[];

export const memberKind = (part: MemberPart): MemberKind<MemberPart> => MEMBERS[part.kind] as MemberKind<MemberPart>;
