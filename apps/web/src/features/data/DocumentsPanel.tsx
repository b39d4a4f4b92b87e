import Box from '@mui/material/Box';
import { useEffect, useState } from 'react';
import { problemText, useDocumentsQuery } from '../../api/api.ts';
import { DocumentList } from '../bench/output/DocumentList.tsx';

/** The documents of a collection in insertion order, a page after another as they are scrolled to. */
export function DocumentsPanel({ collection }: { collection: string }) {
  const [after, setAfter] = useState<number | undefined>(undefined);
  const [rows, setRows] = useState<readonly unknown[]>([]);
  const { currentData, error, isFetching } = useDocumentsQuery(
    { collection, size: 40, ...(after !== undefined && { after }) },
    { refetchOnMountOrArgChange: true },
  );
  useEffect(() => {
    setRows([]);
    setAfter(undefined);
  }, [collection]);
  useEffect(() => {
    if (currentData) setRows((before) => (after === undefined ? currentData.documents : [...before, ...currentData.documents]));
    // eslint-disable-next-line react-hooks/exhaustive-deps -- a page is added once, when it has come
  }, [currentData]);
  if (error) return <Box sx={{ p: 2.5, color: 'error.main' }}>{problemText(error)}</Box>;
  if (rows.length === 0)
    return (
      <Box sx={{ p: 2.5, color: 'text.secondary' }}>
        {isFetching ? 'Reading …' : 'There are no documents yet. Load a file to put some in.'}
      </Box>
    );
  return <DocumentList rows={rows} more={() => !isFetching && currentData?.last != null && setAfter(currentData.last)} />;
}
