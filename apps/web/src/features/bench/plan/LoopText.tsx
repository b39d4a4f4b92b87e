import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { useLoopQuery } from '../../../api/asking.ts';
import { problemText } from '../../../api/problems.ts';
import { codeFont } from '../../../app/theme.ts';
import { Heading } from '../../../parts/plan/WayList.tsx';
import { useCopy } from '../../../parts/useCopy.ts';
import { parametersFor } from '../../../state/bench/parameters.ts';
import { useBench } from '../../../state/bench/useBench.ts';

/** The loops that are generated of the plan, folded until someone wants to read them. */
export function LoopText() {
  const { text, parameters } = useBench('text', 'parameters');
  const [isOpen, setOpen] = useState(false);
  return (
    <Box component="section" aria-label="The loop">
      <Heading>What is run, row by row</Heading>
      <Box sx={{ px: 2, pb: 1 }}>
        <Button size="small" aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
          {isOpen ? 'Hide the generated loop' : 'Show the generated loop'}
        </Button>
        {isOpen && <Loops pipeline={text} parameters={parametersFor(parameters)} />}
      </Box>
    </Box>
  );
}

function Loops(asked: Parameters<typeof useLoopQuery>[0]) {
  const { data, error, isFetching } = useLoopQuery(asked);
  const copy = useCopy();
  if (error !== undefined) return <Box role="alert" sx={{ fontSize: 12.5, color: 'error.main' }}>{problemText(error)}</Box>; // prettier-ignore
  if (data === undefined) return <Box sx={{ fontSize: 12.5, color: 'text.secondary' }}>{isFetching ? 'Planning …' : ''}</Box>;
  return (
    <>
      <Button size="small" onClick={() => copy(data)}>
        Copy it
      </Button>
      <Box
        component="pre"
        tabIndex={0}
        aria-label="The generated loop"
        sx={{
          m: 0,
          maxHeight: 420,
          overflow: 'auto',
          fontFamily: codeFont,
          fontVariantLigatures: 'none',
          fontSize: 11.5,
          lineHeight: '17px',
        }}
      >
        {data}
      </Box>
    </>
  );
}
