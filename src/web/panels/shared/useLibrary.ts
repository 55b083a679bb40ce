import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { LibraryLine } from '../../../protocol/library';
import { fetchLibrary } from '../../live/fetchRig';

const LIBRARY = ['library'] as const;

/** What is kept apart from any rig, and how to say that it changed. */
export function useLibrary(): { kept: LibraryLine[]; changed: () => void } {
  const client = useQueryClient();
  const { data: kept = [] } = useQuery({ queryKey: LIBRARY, queryFn: fetchLibrary, placeholderData: (before) => before });
  return { kept, changed: () => void client.invalidateQueries({ queryKey: LIBRARY }) };
}
