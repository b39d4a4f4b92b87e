import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { problemText, useCreateIndexMutation } from '../../api/api.ts';
import { splitKeys } from './keys.ts';

/** Builds an index of keys written in the notation. */
export function NewIndex({ collection }: { collection: string }) {
  const [keys, setKeys] = useState('');
  const [where, setWhere] = useState('');
  const [unique, setUnique] = useState(false);
  const [create, { error, isLoading, reset }] = useCreateIndexMutation();
  const submit = async () => {
    const made = await create({ collection, keys: splitKeys(keys), unique, ...(where.trim() !== '' && { where }) });
    if (made.error) return;
    setKeys('');
    setWhere('');
    setUnique(false);
  };
  return (
    <Box
      component="form"
      aria-label="New index"
      onSubmit={(event) => {
        event.preventDefault();
        void submit();
      }}
      sx={{
        px: 2.5,
        py: 2,
        display: 'flex',
        gap: 1.5,
        alignItems: 'flex-start',
        flexWrap: 'wrap',
        bgcolor: (t) => t.roles.form,
        borderBottom: 1,
        borderColor: 'divider',
      }}
    >
      <TextField
        label="Keys"
        placeholder="@.status, @.arrivesOn desc"
        value={keys}
        onChange={(event) => {
          setKeys(event.target.value);
          reset();
        }}
        error={error !== undefined}
        helperText={
          error ? problemText(error) : 'As in order by: the keys that are asked for by equality first, then the order or one range'
        }
        sx={{ flex: 2, minWidth: 280 }}
      />
      <TextField
        label="Only documents where (optional)"
        placeholder='@.status == "late"'
        value={where}
        onChange={(event) => setWhere(event.target.value)}
        sx={{ flex: 1, minWidth: 210 }}
      />
      <FormControlLabel
        control={<Checkbox size="small" checked={unique} onChange={(event) => setUnique(event.target.checked)} />}
        label="Unique"
      />
      <Button type="submit" variant="contained" disabled={keys.trim() === '' || isLoading} sx={{ mt: 0.5 }}>
        {isLoading ? 'Building …' : 'Build'}
      </Button>
    </Box>
  );
}
