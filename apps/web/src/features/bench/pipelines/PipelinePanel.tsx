import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Drawer from '@mui/material/Drawer';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import MenuList from '@mui/material/MenuList';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import type { SavedPipeline } from '@zesty-sieve/contract';
import { useRef, useState, type ReactNode } from 'react';
import { usePipelinesQuery } from '../../../api/pipelines.ts';
import { problemText } from '../../../api/problems.ts';
import { usePublicationsQuery } from '../../../api/publications.ts';
import { useKept } from '../../../parts/useKept.ts';
import { ageText } from '../../../parts/views/keeping.ts';
import { listed, type ListOrder } from './listed.ts';

interface PipelinePanelProps {
  /** The one that is open on the Bench. */
  readonly name: string | null;
  /** Names, the last used first. */
  readonly recent: readonly string[];
  readonly onOpen: (one: SavedPipeline) => void;
  readonly onNew: () => void;
  readonly onFile: () => void;
  readonly onClose: () => void;
  /** What stands above the list. */
  readonly children?: ReactNode;
}

const orders: Readonly<Record<ListOrder, string>> = { learnt: 'as the job is learnt', used: 'used last' };

/** The saved pipelines, to look among and to open. */
export function PipelinePanel({ name, recent, onOpen, onNew, onFile, onClose, children }: PipelinePanelProps) {
  const { data: pipelines = [], isSuccess, error } = usePipelinesQuery();
  const { data: publications = [] } = usePublicationsQuery();
  const [search, setSearch] = useState('');
  const [order, setOrder] = useKept<ListOrder>('zesty-sieve-pipeline-order', 'learnt', (kept) => kept in orders);
  const list = useRef<HTMLUListElement>(null);
  const sections = listed(pipelines, { search, order, recent });
  const [first] = sections.flatMap((section) => section.pipelines);
  const published = new Set(publications.map(({ pipeline }) => pipeline));
  const intoList = () => list.current?.querySelector<HTMLElement>('[role="menuitem"]')?.focus();
  return (
    <Drawer anchor="right" open onClose={onClose} slotProps={{ paper: { role: 'dialog', 'aria-label': 'Saved pipelines', sx: { width: 'min(440px, 92vw)', display: 'flex', flexDirection: 'column' } } }}>
      <Box sx={{ px: 2, pt: 1.5, pb: 1, display: 'grid', gap: 1.25, borderBottom: 1, borderColor: 'divider' }}>
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
          <Box component="h2" sx={{ m: 0, flex: 1, fontSize: 16, fontWeight: 700 }}>Pipelines</Box>
          <Button onClick={onNew}>New</Button>
          <Button onClick={onFile}>Open a file</Button>
          <IconButton aria-label="Close the saved pipelines" onClick={onClose} size="small">×</IconButton>
        </Box>
        <TextField
          autoFocus
          size="small"
          placeholder="Names, sentences, lines"
          value={search}
          onChange={(event) => setSearch(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'ArrowDown') {
              event.preventDefault();
              intoList();
            }
            if (event.key === 'Enter' && first !== undefined) onOpen(first);
          }}
          slotProps={{ htmlInput: { 'aria-label': 'Look among the saved pipelines' } }}
        />
        <ToggleButtonGroup exclusive size="small" value={order} onChange={(_event, next: ListOrder | null) => next && setOrder(next)} aria-label="Order of the pipelines">
          {(Object.keys(orders) as ListOrder[]).map((one) => (
            <ToggleButton key={one} value={one}>{orders[one]}</ToggleButton>
          ))}
        </ToggleButtonGroup>
      </Box>
      <Box sx={{ flex: 1, minHeight: 0, overflow: 'auto' }}>
        {search === '' && children}
        <MenuList ref={list} aria-label="Saved pipelines" sx={{ py: 0.5 }}>
          {sections.flatMap(({ caption, pipelines: some }) => [
            <Box key={caption} component="li" role="presentation" sx={{ px: 2, pt: 1, pb: 0.25, fontSize: 11, color: 'text.secondary' }}>{caption}</Box>,
            ...some.map((one) => (
              <MenuItem key={one.name} selected={one.name === name} onClick={() => onOpen(one)} sx={{ display: 'block', whiteSpace: 'normal', py: 0.6 }}>
                <Box sx={{ display: 'flex', gap: 1, alignItems: 'baseline', flexWrap: 'wrap' }}>
                  <Box component="span" sx={{ fontWeight: 600, overflowWrap: 'anywhere' }}>{one.name}</Box>
                  {marksOf(one, published.has(one.name)).map((mark) => (
                    <Box key={mark} component="span" sx={{ fontSize: 11, px: 0.75, border: 1, borderColor: 'divider', borderRadius: 1, color: 'text.secondary' }}>{mark}</Box>
                  ))}
                </Box>
                <Box sx={{ fontSize: 12, color: one.name === name ? 'inherit' : 'text.secondary' }}>{one.note}</Box>
              </MenuItem>
            )),
          ])}
        </MenuList>
        {sections.length === 0 && (
          <Box sx={{ px: 2, py: 1, color: 'text.secondary' }}>
            {error !== undefined ? problemText(error) : !isSuccess ? 'Looking …' : pipelines.length === 0 ? 'No pipeline has been saved yet.' : 'None has these words.'}
          </Box>
        )}
      </Box>
    </Drawer>
  );
} // prettier-ignore

/** What it is beside a text: a view, whose rows may be kept and how they stand; published. */
function marksOf({ view, materialized, sql }: SavedPipeline, isPublished: boolean): string[] {
  const age = materialized?.refreshedAt == null ? '' : `, ${ageText(Date.now() - Date.parse(materialized.refreshedAt))} old`;
  return [
    ...(materialized !== null
      ? [materialized.state === 'fresh' ? 'kept view, up to date' : `kept view, ${materialized.state}${age}`]
      : view
        ? ['view']
        : []),
    ...(sql === null ? [] : ['SQL']),
    ...(isPublished ? ['published'] : []),
  ];
}
