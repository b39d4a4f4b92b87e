import Box from '@mui/material/Box';

/** A figure before and after, as two bars to the same scale. */
export function FigurePair({
  label,
  before,
  after,
  show,
}: {
  label: string;
  before: number;
  after: number;
  show: (value: number) => string;
}) {
  const most = Math.max(before, after, 0.001);
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '128px minmax(0, 1fr) 150px', alignItems: 'center', columnGap: 1.5, py: 0.4 }}>
      <Box sx={{ fontSize: 12.5 }}>{label}</Box>
      <Box>
        <Box
          sx={{ height: 7, borderRadius: 0.5, bgcolor: (t) => t.roles.quiet, width: `${(before / most) * 100}%`, minWidth: 2, mb: 0.4 }}
        />
        <Box sx={{ height: 7, borderRadius: 0.5, bgcolor: (t) => t.roles.index, width: `${(after / most) * 100}%`, minWidth: 2 }} />
      </Box>
      <Box sx={{ fontSize: 12.5, whiteSpace: 'nowrap' }}>
        {show(before)} → <b>{show(after)}</b>
      </Box>
    </Box>
  );
}
