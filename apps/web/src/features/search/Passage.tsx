import Box from '@mui/material/Box';
import { Fragment } from 'react';

/** An excerpt: the words between ⟦ ⟧ stand out, by weight and by colour. */
export function Passage({ text }: { readonly text: string }) {
  return (
    <>
      {text.split(/⟦|⟧/).map((part, i) =>
        i % 2 === 1 ? (
          <Box key={i} component="mark" sx={{ bgcolor: 'transparent', color: 'secondary.main', fontWeight: 700 }}>
            {part}
          </Box>
        ) : (
          <Fragment key={i}>{part}</Fragment>
        ),
      )}
    </>
  );
}
