import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { Publication } from '@zesty-sieve/contract';
import { apiUrl } from '../../api/apiUrl.ts';
import { useCopy } from '../../parts/useCopy.ts';
import { addressOf, curlOf, exampleQuery, fetchOf, type Values } from './addresses.ts';

/** Where it is asked, to be copied. */
export function Addresses({ publication, values }: { readonly publication: Publication; readonly values: Values }) {
  const copy = useCopy();
  const address = addressOf(publication, new URL(apiUrl(), window.location.href).href.replace(/\/$/, ''), exampleQuery(publication, values));
  return (
    <Box sx={{ px: 2.5, pb: 1.5, display: 'flex', alignItems: 'center', gap: 1, flexWrap: 'wrap' }}>
      <Box component="code" sx={{ flex: '1 1 300px', minWidth: 0, overflow: 'auto', whiteSpace: 'nowrap', px: 1.25, py: 0.75, fontSize: 12.5, border: 1, borderColor: 'divider', borderRadius: 1, bgcolor: 'background.paper' }} tabIndex={0} aria-label="Its address">{address}</Box>
      <Button onClick={() => copy(address, 'The address is copied.')}>Copy</Button>
      <Button onClick={() => copy(curlOf(publication, address), 'The curl call is copied.')}>as curl</Button>
      <Button onClick={() => copy(fetchOf(publication, address), 'The fetch call is copied.')}>as fetch</Button>
    </Box>
  );
} // prettier-ignore
