import Box from '@mui/material/Box';
import { Fragment } from 'react';
import { codeFont } from '../../app/theme.ts';
import type { WishedIndex } from './indexNames.ts';

/** Indexes by their keys, as code; several joined by a plain *and*. */
export function IndexKeys({ indexes }: { indexes: readonly WishedIndex[] }) {
  return (
    <>
      {indexes.map(({ keys }, i) => (
        <Fragment key={keys.join()}>
          {i > 0 && ' and '}
          <Box component="code" sx={{ fontFamily: codeFont, fontVariantLigatures: 'none', color: (t) => t.roles.index }}>
            {keys.join(', ')}
          </Box>
        </Fragment>
      ))}
    </>
  );
}
