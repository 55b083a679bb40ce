import type { MemberPart } from '../../../core/ensemble/parts';
import type { RigDocument } from '../../../core/rig/document';

export interface PartFieldsProps<P extends MemberPart = MemberPart> {
  part: P;
  rig: RigDocument;
  /** Streams that it must not listen to. */
  without: readonly string[];
  onChange: (part: P) => void;
}
