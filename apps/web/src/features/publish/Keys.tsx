import { dayText, instantText } from '../../parts/dates.ts';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import type { Publication } from '@zesty-sieve/contract';
import { useState } from 'react';
import { useAddKeyMutation, usePublicationKeysQuery, useRemoveKeyMutation } from '../../api/publications.ts';
import { problemText } from '../../api/problems.ts';
import { Problem } from '../../parts/Problem.tsx';
import { useCopy } from '../../parts/useCopy.ts';

const when = (at: string | null): string => (at === null ? 'never used' : `last used ${instantText(at)}`);

/** The keys of a publication: made here, shown once, and removed. */
export function Keys({ publication: { name: publication, access } }: { readonly publication: Publication }) {
  const { data: keys = [] } = usePublicationKeysQuery(publication);
  const [add, adding] = useAddKeyMutation();
  const [remove, removing] = useRemoveKeyMutation();
  const [name, setName] = useState('');
  const copy = useCopy();
  const problem = adding.error ?? removing.error;
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1.5, maxWidth: 640 }}>
      {access === 'open' && <Box sx={{ color: 'text.secondary' }}>It is open: no key is asked for. Say otherwise under How it is answered.</Box>}
      <Box component="form" onSubmit={(event) => { event.preventDefault(); if (name.trim() !== '') void add({ publication, name: name.trim() }).unwrap().then(() => setName(''), () => undefined); }} sx={{ display: 'flex', gap: 1 }}>
        <TextField label="Who the key is for" value={name} onChange={(event) => setName(event.target.value)} size="small" sx={{ flex: 1 }} />
        <Button type="submit" variant="contained" disabled={name.trim() === '' || adding.isLoading}>Make a key</Button>
      </Box>
      {problem !== undefined && <Problem text={problemText(problem)} />}
      {adding.data && (
        <Alert severity="info" icon={false} onClose={adding.reset}>
          The key for {adding.data.name}, shown this once: <Box component="code" data-testid="made-key" sx={{ overflowWrap: 'anywhere' }}>{adding.data.key}</Box>{' '}
          <Button size="small" onClick={() => copy(adding.data!.key, 'The key is copied.')}>Copy</Button>
        </Alert>
      )}
      {keys.length === 0 ? (
        <Box sx={{ color: 'text.secondary' }}>There are no keys.</Box>
      ) : (
        <Box component="ul" aria-label="Keys" sx={{ m: 0, p: 0, listStyle: 'none' }}>
          {keys.map((key) => (
            <Box component="li" key={key.id} sx={{ display: 'flex', alignItems: 'center', gap: 1, py: 0.5, borderBottom: 1, borderColor: 'divider' }}>
              <Box sx={{ flex: 1 }}><b>{key.name}</b> <Box component="span" sx={{ fontSize: 12, color: 'text.secondary' }}>made {dayText(key.createdAt)}, {when(key.lastUsedAt)}</Box></Box>
              <Button color="error" aria-label={`Remove the key ${key.name}`} onClick={() => void remove({ publication, id: key.id })}>Remove</Button>
            </Box>
          ))}
        </Box>
      )}
    </Box>
  );
} // prettier-ignore
