import Box from '@mui/material/Box';

/** What went wrong, in a line of its own. */
export function Problem({ text }: { readonly text: string }) {
  return (
    <Box role="alert" sx={{ px: 2, py: 1, color: 'error.main' }}>
      {text}
    </Box>
  );
}
