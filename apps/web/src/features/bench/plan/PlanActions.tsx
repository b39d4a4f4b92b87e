import { useBench } from '../../../state/bench/useBench.ts';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import type { PlanAnswer } from '@zesty-sieve/contract';
import { namedSources } from '@zesty-sieve/core/language';
import { useCollectionsQuery } from '../../../api/collections.ts';
import { useIndexesQuery } from '../../../api/indexes.ts';
import { useAppDispatch } from '../../../app/store.ts';
import { saveAs } from '../../../parts/saveAs.ts';
import { indexChosen } from '../../../state/bench/benchSlice.ts';
import type { IndexChoice } from '../../../state/bench/benchState.ts';

/** What can be done with a plan: insist on an index or pass one over, and take the plan away as JSON. */
export function PlanActions({ told }: { told: PlanAnswer }) {
  const { text, name, indexChoice } = useBench('text', 'name', 'indexChoice');
  const dispatch = useAppDispatch();
  const { data: collections = [] } = useCollectionsQuery();
  const [source] = namedSources(text);
  const isCollection = collections.some((one) => one.name === source);
  const { data } = useIndexesQuery(source ?? '', { skip: !isCollection });
  const indexes = data?.indexes ?? [];
  const value = indexChoice.kind === 'planned' ? '' : `${indexChoice.kind}:${indexChoice.index}`;
  const choose = (chosen: string) => {
    const [kind, index] = [chosen.slice(0, chosen.indexOf(':')), chosen.slice(chosen.indexOf(':') + 1)];
    dispatch(indexChosen(chosen === '' ? { kind: 'planned' } : ({ kind, index } as IndexChoice)));
  };
  const known = indexes.flatMap((index) => [`use:${index.name}`, `ignore:${index.name}`]);
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, px: 2, py: 0.75, borderBottom: 1, borderColor: 'divider', fontSize: 12.5 }}>
      <Box sx={{ color: 'text.secondary' }}>for now</Box>
      <Select
        size="small"
        displayEmpty
        value={value === '' || known.includes(value) ? value : ''}
        onChange={(event) => choose(event.target.value)}
        inputProps={{ 'aria-label': 'Indexes of this run' }}
        sx={{ fontSize: 12.5, '& .MuiSelect-select': { py: '4px' } }}
      >
        <MenuItem value="">the way that costs least</MenuItem>
        {indexes.flatMap((index) => [
          <MenuItem key={`use:${index.name}`} value={`use:${index.name}`}>
            use {index.name}, whatever it costs
          </MenuItem>,
          <MenuItem key={`ignore:${index.name}`} value={`ignore:${index.name}`}>
            without {index.name}
          </MenuItem>,
        ])}
      </Select>
      <Box sx={{ flex: 1 }} />
      <Button
        size="small"
        onClick={() =>
          saveAs(
            `${name ?? 'pipeline'}.plan.json`,
            'application/json',
            JSON.stringify({ pipeline: text, ...told, documents: undefined }, null, 2),
          )
        }
      >
        Save as JSON
      </Button>
    </Box>
  );
}
