import Joi from 'joi';
import type { RigDocument, Shaping } from '../core/rig/document';
import { name, tagged } from './rig/pieces';
import { shaping } from './rig/shaping';

/** What is kept apart from any rig, to be used in others: a shaping, or a kit: some of a rig as a small rig of its own. */
export type LibraryContent = { kind: 'shaping'; shaping: Shaping } | { kind: 'kit'; kit: RigDocument };

export type LibraryEntry = { id: string; name: string; savedAtMs: number } & LibraryContent;

/** The list has shapings whole, kits by name. */
export type LibraryLine = { id: string; name: string; savedAtMs: number } & ({ kind: 'shaping'; shaping: Shaping } | { kind: 'kit' });

/** The body of POST /api/library; a kit is checked as a rig after that. */
export const keepSchema: Joi.Schema<{ name: string } & LibraryContent> = tagged('kind', {
  shaping: { name: name.required(), shaping: shaping.required() },
  kit: { name: name.required(), kit: Joi.object().unknown().required() },
});
