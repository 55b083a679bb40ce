import { MESSAGES, type MessageSpec } from '../../core/messages';
import { schemasOf } from './shapes';
import { tagged } from './pieces';

/** What a level becomes. */
export const message = tagged<MessageSpec>('kind', Object.fromEntries(Object.entries(MESSAGES).map(([kind, { fields }]) => [kind, schemasOf(fields)])));
