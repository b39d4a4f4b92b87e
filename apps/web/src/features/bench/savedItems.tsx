import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import type { SavedPipeline } from '@zesty-sieve/contract';

interface SavedItems {
  readonly pipelines: readonly SavedPipeline[];
  /** Names, the last used first. */
  readonly recent: readonly string[];
  /** The one that is open. */
  readonly name: string | null;
  readonly onOpen: (one: SavedPipeline) => void;
}

/** The saved pipelines as items of a menu, whose keys alone lead through its items: those used last come first. */
export function savedItems({ pipelines, recent, name, onOpen }: SavedItems): React.ReactNode[] {
  const used = recent.flatMap((one) => pipelines.filter((pipeline) => pipeline.name === one));
  const inOrder = [...used, ...pipelines.filter((one) => !used.includes(one))];

  return [
    used.length > 0 && <MenuCaption key="used">used last</MenuCaption>,
    ...inOrder.map((one, i) => [
      used.length > 0 && i === used.length && <MenuCaption key="others">all others</MenuCaption>,
      <MenuItem
        key={one.name}
        selected={one.name === name}
        onClick={() => onOpen(one)}
        sx={{ display: 'block', whiteSpace: 'normal', py: 0.75 }}
      >
        <Box sx={{ fontWeight: 600 }}>
          {one.name}
          {one.view && (
            <Box component="span" sx={{ color: 'text.secondary', fontWeight: 450 }}>
              {' '}
              view
            </Box>
          )}
        </Box>
        <Box sx={{ fontSize: 12, color: 'text.secondary' }}>{one.note}</Box>
      </MenuItem>,
    ]),
    pipelines.length === 0 && (
      <MenuItem key="none" disabled>
        No pipeline has been saved yet
      </MenuItem>
    ),
  ];
}

function MenuCaption({ children }: { children: string }) {
  return (
    <Box component="li" role="presentation" sx={{ px: 2, pt: 0.75, fontSize: 11, color: 'text.secondary' }}>
      {children}
    </Box>
  );
}
