import Button from '@mui/material/Button';
import Box from '@mui/material/Box';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';
import { usePipelinesQuery } from '../../api/api.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { opened } from './state/benchSlice.ts';

/** The pipeline's name, and the saved ones to open. */
export function SavedMenu() {
  const { data: pipelines = [] } = usePipelinesQuery();
  const { name, text, savedText } = useAppSelector(({ bench }) => bench);
  const dispatch = useAppDispatch();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5 }}>
      <Box sx={{ color: 'text.secondary', fontSize: 13 }}>
        {name ?? 'Not saved'}
        {name !== null && text !== savedText && (
          <Box component="span" sx={{ color: 'secondary.main' }}>
            {' '}
            · edited
          </Box>
        )}
      </Box>
      <Button
        variant="outlined"
        onClick={(event) => setAnchor(event.currentTarget)}
        aria-haspopup="menu"
        sx={{ borderColor: 'divider', bgcolor: 'background.default' }}
      >
        Pipelines
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)} slotProps={{ paper: { sx: { maxWidth: 460 } } }}>
        {pipelines.map((saved) => (
          <MenuItem
            key={saved.name}
            onClick={() => {
              dispatch(opened({ text: saved.pipeline, name: saved.name, note: saved.note, guards: saved.guards }));
              setAnchor(null);
            }}
            sx={{ display: 'block', whiteSpace: 'normal', py: 1 }}
          >
            <Box sx={{ fontWeight: 600 }}>{saved.name}</Box>
            <Box sx={{ fontSize: 12, color: 'text.secondary' }}>{saved.note}</Box>
          </MenuItem>
        ))}
        {pipelines.length === 0 && <MenuItem disabled>No pipeline has been saved yet</MenuItem>}
      </Menu>
    </Box>
  );
}
