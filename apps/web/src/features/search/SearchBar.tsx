import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState, type ReactNode } from 'react';
import { count as counted } from '../../parts/numbers.ts';

interface SearchBarProps {
  readonly collection: string;
  readonly count: number;
  readonly others: readonly string[];
  readonly words: string;
  readonly best: number;
  readonly isSearching: boolean;
  readonly isPossible: boolean;
  readonly onCollection: (name: string) => void;
  readonly onBest: (best: number) => void;
  readonly onSearch: (words: string) => void;
  readonly children: ReactNode;
}

/** Where to search, for what, and how many of the best. */
export function SearchBar({ collection, count, others, words, best, isSearching, isPossible, onCollection, onBest, onSearch, children }: SearchBarProps) {
  const [typed, setTyped] = useState(words);
  const [most, setMost] = useState(String(best));
  return (
    <Box
      component="form"
      role="search"
      onSubmit={(event) => {
        event.preventDefault();
        if (typed.trim() !== '') onSearch(typed.trim());
      }}
      sx={{ px: 2.5, py: 1.5, display: 'flex', gap: 1.25, alignItems: 'center', bgcolor: 'background.paper', borderBottom: 1, borderColor: 'divider' }}
    >
      <Box component="span" sx={{ color: 'text.secondary' }}>
        in
      </Box>
      <TextField
        select
        value={collection}
        onChange={(event) => onCollection(event.target.value)}
        slotProps={{ htmlInput: { 'aria-label': 'Collection' }, select: { renderValue: () => <><b>{collection}</b> {counted(count)}</> } }}
        sx={{ minWidth: 150 }}
      >
        {others.map((one) => (
          <MenuItem key={one} value={one}>
            {one}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        autoFocus
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        placeholder="words, as you would say them"
        slotProps={{ htmlInput: { 'aria-label': 'Words' } }}
        sx={{ flex: 1, minWidth: 120, '& input': { fontSize: 15 } }}
      />
      <Box component="span" sx={{ color: 'text.secondary' }}>
        best
      </Box>
      <TextField
        type="number"
        value={most}
        onChange={(event) => {
          setMost(event.target.value);
          const next = Number(event.target.value);
          if (Number.isInteger(next) && next >= 1 && next <= 100) onBest(next);
        }}
        slotProps={{ htmlInput: { 'aria-label': 'How many', min: 1, max: 100 } }}
        sx={{ width: 76 }}
      />
      <Button type="submit" variant="contained" disabled={typed.trim() === '' || !isPossible} sx={{ height: 34, px: 2.5 }}>
        {isSearching ? 'Searching …' : 'Search'}
      </Button>
      {children}
    </Box>
  );
} // prettier-ignore
