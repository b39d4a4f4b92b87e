import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import { parseValueText } from '@zesty-sieve/core/language';
import { useCollectionsQuery } from '../../api/collections.ts';
import { usePipelinesQuery } from '../../api/pipelines.ts';
import { count } from '../numbers.ts';
import { frame, Typed, Word } from './parts.tsx';

export function FromForm({ source, onText }: { source: string; onText: (text: string) => void }) {
  const { data: collections = [], isSuccess } = useCollectionsQuery();
  const { data: pipelines = [], isSuccess: hasViews } = usePipelinesQuery();
  const views = pipelines.filter(({ view }) => view);
  const known = collections.some(({ name }) => name === source) || views.some(({ name }) => name === source);
  return (
    <Box sx={frame}>
      <Word word="from">the documents of a collection</Word>
      <Select
        size="small"
        displayEmpty
        value={known ? source : ''}
        onChange={(event) => onText(`from ${event.target.value}`)}
        inputProps={{ 'aria-label': 'Collection' }}
        sx={{ minWidth: 220, bgcolor: 'background.paper', fontSize: 13 }}
      >
        {!known && <MenuItem value="">{source === '' ? 'choose one' : isSuccess && hasViews ? `there is no ${source}` : source}</MenuItem>}
        {collections.map(({ name, count: documents }) => (
          <MenuItem key={name} value={name}>
            {name}
            <Box component="span" sx={{ color: 'text.secondary', pl: 1.5 }}>
              {count(documents)}
            </Box>
          </MenuItem>
        ))}
        {views.map(({ name }) => (
          <MenuItem key={name} value={name}>
            {name}
            <Box component="span" sx={{ color: 'text.secondary', pl: 1.5 }}>
              view
            </Box>
          </MenuItem>
        ))}
      </Select>
    </Box>
  );
}

export function CountForm({ word, text, doc, onText }: { word: string; text: string; doc: string; onText: (text: string) => void }) {
  return (
    <Box sx={frame}>
      <Word word={word}>{doc}</Word>
      <Box sx={{ width: 200, display: 'flex' }}>
        <Typed label="Rows" value={text} isSound={(typed) => 'expression' in parseValueText(typed)} onChange={onText} />
      </Box>
    </Box>
  );
}
