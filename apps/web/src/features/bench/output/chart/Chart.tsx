import { useBench } from '../../../../state/bench/useBench.ts';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import { useTheme } from '@mui/material/styles';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useEffect, useMemo, useRef } from 'react';
import { useAppDispatch } from '../../../../app/store.ts';
import { count, counted } from '../../../../parts/numbers.ts';
import { chartChosen } from '../../../../state/bench/benchSlice.ts';
import { chartColumns, chartData, fittingChart, type ChartColumn } from './chartData.ts';
import type { ChartKind, ChartSettings } from '../../../../state/bench/chartSettings.ts';
import { exportPng, exportSvg } from './exportChart.ts';
import { Plot } from './Plot.tsx';

/** Rows that are drawn; a chart of more is better grouped first. */
const rowsDrawn = 2_000;

/** The rows that have come as a chart: one that fits their columns, until another is chosen. */
export function Chart({ rows, of, more }: { rows: readonly unknown[]; of: number; more: () => void }) {
  useEffect(() => {
    if (rows.length < Math.min(of, rowsDrawn)) more();
  }, [rows, of, more]);
  const { chart: chosen, name } = useBench('chart', 'name');
  const dispatch = useAppDispatch();
  const { roles } = useTheme();
  const host = useRef<HTMLDivElement>(null);
  const columns = useMemo(() => chartColumns(rows), [rows]);
  const fits = (settings: ChartSettings | null) =>
    settings !== null &&
    [settings.across, settings.up, ...(settings.by === null ? [] : [settings.by])].every((id) =>
      columns.some((column) => column.id === id),
    );
  const settings = fits(chosen) ? chosen : fittingChart(columns, rows.length);
  const data = useMemo(() => (settings ? chartData(rows, settings) : undefined), [rows, settings]);
  if (!settings || data === undefined) {
    return (
      <Box sx={{ p: 3, fontSize: 13, color: 'text.secondary' }}>
        A chart needs a column of numbers, and another beside it: names, dates or numbers again. Add a number with compute, and it can be
        drawn.
      </Box>
    );
  }
  const choose = (change: Partial<ChartSettings>) => dispatch(chartChosen({ ...settings, ...change }));
  const label = (id: string) => columns.find((column) => column.id === id)?.label ?? '';
  const file = name ?? 'chart';
  const svg = () => host.current?.querySelector('svg.recharts-surface') ?? null;
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column', bgcolor: 'background.paper' }}>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 1, px: 2, py: 1, fontSize: 12.5 }}>
        <ToggleButtonGroup
          value={settings.kind}
          onChange={(_event, kind: ChartKind | null) => kind && choose({ kind })}
          aria-label="Kind of chart"
        >
          <ToggleButton value="bars">Bars</ToggleButton>
          <ToggleButton value="line">Line</ToggleButton>
          <ToggleButton value="points">Points</ToggleButton>
        </ToggleButtonGroup>
        <Pick label="Up" value={settings.up} from={columns.filter(({ type }) => type === 'number')} onChange={(up) => choose({ up })} />
        over
        <Pick
          label="Across"
          value={settings.across}
          from={columns.filter(({ type }) => (settings.kind === 'points' ? type === 'number' : type !== 'other'))}
          onChange={(across) => choose({ across })}
        />
        by
        <Pick
          label="By"
          value={settings.by ?? ''}
          from={columns.filter(({ id, type }) => type !== 'other' && type !== 'number' && id !== settings.across)}
          none="nothing"
          onChange={(by) => choose({ by: by === '' ? null : by })}
        />
        <Box sx={{ flex: 1 }} />
        <Box sx={{ whiteSpace: 'nowrap' }}>
          <Button size="small" onClick={() => exportSvg(svg(), file)} sx={{ fontSize: 12, minWidth: 0, px: 1 }}>
            SVG
          </Button>
          <Button size="small" onClick={() => void exportPng(svg(), file, roles.surface)} sx={{ fontSize: 12, minWidth: 0, px: 1 }}>
            PNG
          </Button>
        </Box>
      </Box>
      <Box
        ref={host}
        role="img"
        aria-label={`${label(settings.up)} over ${label(settings.across)}, ${counted(data.points.length, 'point')}`}
        sx={{ flex: 1, minHeight: 200, px: 1 }}
      >
        <Plot data={data} settings={settings} acrossLabel={label(settings.across)} upLabel={label(settings.up)} />
      </Box>
      <Box sx={{ px: 2, py: 0.75, fontSize: 12, color: 'text.secondary' }}>
        {
          rows.length < of && <Box component="span" sx={{ color: 'secondary.main' }}>of the first {count(rows.length)} of {count(of)} rows · </Box> /* prettier-ignore */
        }
        {data.left > 0 && `${counted(data.left, 'row')} without a number left out · `}
        {data.joined > 0 && `${counted(data.joined, 'value')} joined as “all others” · `}
        {settings.kind !== 'points' && data.points.length < rows.length - data.left && 'rows of the same place are added up'}
      </Box>
    </Box>
  );
}

function Pick({
  label,
  value,
  from,
  none,
  onChange,
}: {
  label: string;
  value: string;
  from: readonly ChartColumn[];
  none?: string;
  onChange: (id: string) => void;
}) {
  return (
    <Select
      size="small"
      displayEmpty
      value={none !== undefined || from.some(({ id }) => id === value) ? value : ''}
      onChange={(event) => onChange(event.target.value)}
      inputProps={{ 'aria-label': label }}
      sx={{ fontSize: 12.5, maxWidth: 150, '& .MuiSelect-select': { py: '4px' } }}
    >
      {(none !== undefined || !from.some(({ id }) => id === value)) && <MenuItem value="">{none ?? 'choose one'}</MenuItem>}
      {from.map(({ id, label: text }) => (
        <MenuItem key={id} value={id}>
          {text}
        </MenuItem>
      ))}
    </Select>
  );
}
