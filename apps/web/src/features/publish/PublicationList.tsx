import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { Publication } from '@zesty-sieve/contract';
import { Link } from 'react-router';
import { counted, percent } from '../../parts/numbers.ts';

/** What is published, each with how much it is asked and how much of that is answered from what is kept. */
export function PublicationList({ publications, chosen, onNew }: { readonly publications: readonly Publication[]; readonly chosen: string | undefined; readonly onNew: () => void }) {
  return (
    <Box component="nav" aria-label="Publications" sx={{ width: 232, flex: 'none', overflow: 'auto', borderRight: 1, borderColor: 'divider', bgcolor: (t) => t.roles.form, py: 1.5 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', px: 2, pb: 1 }}>
        <Box component="h2" sx={{ m: 0, flex: 1, fontSize: 13, fontWeight: 700 }}>Published</Box>
        <Button size="small" onClick={onNew}>+ new</Button>
      </Box>
      {publications.map(({ name, title, access, totals, problem }) => (
        <Box key={name} component={Link} to={`/publish/${name}`} aria-current={name === chosen ? 'page' : undefined} sx={{ display: 'block', px: 2, py: 0.9, color: 'text.primary', textDecoration: 'none', bgcolor: (t) => (name === chosen ? t.roles.flowSoft : 'transparent') }}>
          <Box sx={{ fontWeight: 600, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>{title ?? name}</Box>
          <Box sx={{ fontSize: 12, color: (t) => (problem !== null ? t.palette.error.main : name === chosen ? 'inherit' : t.roles.softInk) }}>
            {problem !== null ? 'cannot be answered' : `${counted(totals.calls, 'call')}${totals.calls > 0 ? `, ${percent(totals.fromCache / totals.calls)} kept` : ''}${access === 'key' ? ' · key' : ''}`}
          </Box>
        </Box>
      ))}
    </Box>
  );
} // prettier-ignore
