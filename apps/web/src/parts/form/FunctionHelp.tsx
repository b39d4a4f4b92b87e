import Box from '@mui/material/Box';
import { functionSignatures } from '@zesty-sieve/core/language';

/** Every function with what it does, by its group. */
export function FunctionHelp() {
  const all = Object.entries(functionSignatures);
  const groups = new Map(
    [...new Set(all.map(([, { group }]) => group))].map((group) => [group, all.filter(([, signature]) => signature.group === group)]),
  );
  return (
    <Box component="details" sx={{ fontSize: 12, pt: 1, '& summary': { cursor: 'pointer', color: 'text.secondary' } }}>
      <summary>Functions</summary>
      {[...groups].map(([group, entries]) => (
        <Box key={group} sx={{ pt: 1 }}>
          <b>{group}</b>
          {entries.map(([name, { doc, example }]) => (
            <Box key={name} sx={{ py: 0.25 }}>
              <code>{example}</code> <span>{doc}</span>
            </Box>
          ))}
        </Box>
      ))}
    </Box>
  );
}
