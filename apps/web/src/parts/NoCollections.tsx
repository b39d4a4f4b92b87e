import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useNavigate } from 'react-router';

/** Where there is nothing to do anything with yet: why, and where to begin. */
export function NoCollections({ why }: { readonly why: string }) {
  const navigate = useNavigate();
  return (
    <Box sx={{ p: 4, maxWidth: 520 }}>
      <Box sx={{ color: 'text.secondary', pb: 2 }}>{why}</Box>
      <Button variant="contained" onClick={() => void navigate('/data', { state: { makes: true } })}>
        New collection
      </Button>
    </Box>
  );
}
