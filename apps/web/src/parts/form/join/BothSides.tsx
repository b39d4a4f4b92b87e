import { skipToken } from '@reduxjs/toolkit/query/react';
import Box from '@mui/material/Box';
import { useDocumentsQuery } from '../../../api/documents.ts';
import { JsonView } from '../../JsonView.tsx';
import { useSample } from '../useSample.ts';

/** The first document of both sides, and what a row looks like after the join. */
export function BothSides({
  before,
  source,
  isCollection,
  written,
}: {
  before: string;
  source: string;
  isCollection: boolean;
  written: string;
}) {
  const [row] = useSample(before.trim() === '' ? undefined : `${before}limit 1`, 1) ?? [];
  const [joined] = useSample(written, 1) ?? [];
  const { data } = useDocumentsQuery(isCollection ? { collection: source, size: 1 } : skipToken);
  const columns: readonly (readonly [string, unknown])[] = [
    ['a row before', row],
    [`one of ${source}`, data?.documents[0]],
    ['the row after', joined],
  ];
  return (
    <Box component="details" sx={{ fontSize: 12, '& summary': { cursor: 'pointer', color: 'text.secondary' } }}>
      <summary>Both sides, and the row after</summary>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: 1.5, pt: 1 }}>
        {columns.map(([label, value]) => (
          <Box key={label} sx={{ minWidth: 0 }}>
            <Box sx={{ color: 'text.secondary' }}>{label}</Box>
            {value === undefined ? 'none' : <JsonView value={value} open={1} />}
          </Box>
        ))}
      </Box>
    </Box>
  );
}
