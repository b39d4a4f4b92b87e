import Box from '@mui/material/Box';
import { usePipelinesQuery } from '../../api/pipelines.ts';
import { CollectionEntry } from '../CollectionList.tsx';
import { counted } from '../numbers.ts';
import { stateText } from './keeping.ts';

interface ViewListProps {
  readonly base: string;
  /** What their names have, in small letters. */
  readonly wanted: string;
  readonly keptOnly?: boolean;
}

/** The views beside the collections, those whose rows are kept with their state; each a link below an address. */
export function ViewList({ base, wanted, keptOnly = false }: ViewListProps) {
  const { data: pipelines = [] } = usePipelinesQuery();
  const views = pipelines.filter(
    ({ name, view, materialized }) => view && (!keptOnly || materialized !== null) && name.toLowerCase().includes(wanted),
  );
  if (views.length === 0) return null;
  return (
    <>
      <Box component="h3" sx={{ m: 0, px: 2.25, pt: 1.75, pb: 0.5, fontSize: 12, fontWeight: 600, color: 'text.secondary' }}>
        Views
      </Box>
      {views.map(({ name, materialized }) => (
        <CollectionEntry key={name} to={`${base}/${encodeURIComponent(name)}`}>
          <Box sx={{ fontWeight: 600, overflow: 'hidden', textOverflow: 'ellipsis' }}>{name}</Box>
          <Box sx={{ fontSize: 12, color: materialized?.state === 'failed' ? 'error.main' : 'text.secondary' }}>
            {materialized === null ? 'worked out when it is read' : `${counted(materialized.rows, 'row')} · ${stateText(materialized)}`}
          </Box>
        </CollectionEntry>
      ))}
    </>
  );
}
