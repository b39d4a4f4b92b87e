import { useBench } from '../../../state/bench/useBench.ts';
import CloseIcon from '@mui/icons-material/Close';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import TextField from '@mui/material/TextField';
import type { PlanAnswer } from '@zesty-sieve/contract';
import { namedSources } from '@zesty-sieve/core/language';
import { useEffect, useState } from 'react';
import { usePlanMutation } from '../../../api/asking.ts';
import { problemText } from '../../../api/problems.ts';
import { veil } from '../../../app/theme.ts';
import { count } from '../../../parts/numbers.ts';
import { Code, StepTable } from '../../../parts/plan/StepTable.tsx';
import { Heading, WayList } from '../../../parts/plan/WayList.tsx';
import { splitKeys } from '../../../parts/keys.ts';
import { parametersFor } from '../../../state/bench/parameters.ts';
import type { IndexBuilder } from '../state/useBuild.ts';
import { BuildButton } from './BuildButton.tsx';

/** Plans against indexes that are not built: what the pipeline would cost with them, estimated from a sample. */
export function WhatIf({ builder, beginsPlain = false }: { builder: IndexBuilder; beginsPlain?: boolean }) {
  const { text, parameters } = useBench('text', 'parameters');
  const [source] = namedSources(text);
  const [typed, setTyped] = useState('');
  const [lists, setLists] = useState<readonly (readonly string[])[]>([]);
  /** Whether the plan is wanted without any other index too: as it is, without a run. */
  const [isPlain, setPlain] = useState(beginsPlain);
  const [answer, setAnswer] = useState<PlanAnswer | null>(null);
  const [plan, { error }] = usePlanMutation();
  useEffect(() => {
    setAnswer(null);
    if ((lists.length === 0 && !isPlain) || source === undefined) return undefined;
    // What is answered after another question has been asked is not that one's.
    let isAsked = true;
    const whatIf = lists.map((keys, i) => ({ collection: source, name: `what if ${i + 1}`, keys: [...keys] }));
    void plan({ pipeline: text, parameters: parametersFor(parameters), whatIf })
      .unwrap()
      .then(
        (told) => isAsked && setAnswer(told),
        () => undefined,
      );
    return () => {
      isAsked = false;
    };
  }, [lists, isPlain, text, parameters, source, plan]);
  const reads = answer?.weighed.filter(({ chosen }) => chosen).reduce((sum, { documentsRead = 0 }) => sum + documentsRead, 0);
  const isUsed = answer?.weighed.some(({ chosen, whatIf }) => chosen && whatIf);
  return (
    <Box component="section" aria-label="What if">
      <Heading>What if there were other indexes?</Heading>
      <Box
        component="form"
        onSubmit={(event: React.FormEvent) => {
          event.preventDefault();
          const keys = splitKeys(typed);
          if (keys.length === 0) return;
          setLists([...lists, keys]);
          setTyped('');
        }}
        sx={{ display: 'flex', gap: 1, px: 2, pb: 1, alignItems: 'flex-start' }}
      >
        <TextField
          placeholder="@.status, @.arrivesOn desc"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          error={error !== undefined && lists.length > 0}
          helperText={
            error !== undefined && lists.length > 0
              ? problemText(error)
              : `Keys of an index of ${source ?? 'the collection'}, as in order by. Nothing is built.`
          }
          sx={{ flex: 1 }}
          slotProps={{ htmlInput: { 'aria-label': 'Keys of a what-if index' } }}
        />
        <Button type="submit" variant="outlined" disabled={typed.trim() === ''}>
          Plan with it
        </Button>
        {lists.length === 0 && (
          <Button aria-pressed={isPlain} onClick={() => setPlain(!isPlain)}>
            {isPlain ? 'Hide the plan' : 'Plan without running'}
          </Button>
        )}
      </Box>
      {lists.map((keys, i) => (
        <Box
          key={i}
          sx={{ display: 'flex', alignItems: 'center', gap: 1, px: 2, py: 0.5, fontSize: 12.5, bgcolor: (t) => veil(t.roles.index, 0.06) }}
        >
          <Box sx={{ flex: 1 }}>
            what if {i + 1}: <Code>{keys.join(', ')}</Code>
          </Box>
          <BuildButton size="small" builder={builder} indexes={[{ keys }]} label="Build and run again" />
          <IconButton size="small" aria-label={`Remove what if ${i + 1}`} onClick={() => setLists(lists.filter((_, k) => k !== i))}>
            <CloseIcon sx={{ fontSize: 15 }} />
          </IconButton>
        </Box>
      ))}
      {answer && (
        <Box role="status" sx={{ px: 2, py: 1, fontSize: 12.5 }}>
          {lists.length === 0 ? (
            <>
              Without a run, from statistics: about <b>{count(reads ?? 0)}</b> documents would be read.
            </>
          ) : isUsed ? (
            <>
              An estimate, from a sample: about <b>{count(reads ?? 0)}</b> documents would be read.
            </>
          ) : (
            'An estimate, from a sample: the pipeline would be run as it is now.'
          )}
        </Box>
      )}
      {answer && (isUsed || lists.length === 0) && (
        <>
          <StepTable plan={answer.plan} />
          <WayList weighed={answer.weighed} />
        </>
      )}
    </Box>
  );
}
