import Box from '@mui/material/Box';
import { codeFont } from '../../../../app/theme.ts';
import { shortText } from '../../../../parts/documents/columns.ts';

export const rowHeight = 31;

export function isNumeric(meta: unknown): boolean {
  return (meta as { numeric?: boolean } | undefined)?.numeric === true;
}

const cellStyle = {
  flex: 'none',
  px: 1.25,
  fontFamily: codeFont,
  fontVariantLigatures: 'none',
  fontSize: 12,
  lineHeight: `${rowHeight - 1}px`,
  overflow: 'hidden',
  textOverflow: 'ellipsis',
  whiteSpace: 'nowrap',
} as const;

export function Cell({
  at,
  value,
  width,
  numeric,
  onOpen,
  onMenu,
}: {
  /** 1-based, of its column. */
  at: number;
  value: unknown;
  width: number;
  numeric: boolean;
  onOpen: (anchor: HTMLElement) => void;
  onMenu: (x: number, y: number) => void;
}) {
  const nested = typeof value === 'object' && value !== null;
  const text = shortText(value);
  const opens = nested || text.length > 40;
  const faint = nested || value === null;
  return (
    <Box
      role="cell"
      aria-colindex={at}
      onContextMenu={(event: React.MouseEvent) => {
        event.preventDefault();
        onMenu(event.clientX, event.clientY);
      }}
      sx={{
        ...cellStyle,
        width,
        textAlign: numeric ? 'right' : 'left',
        color: faint ? 'text.secondary' : 'text.primary',
      }}
    >
      {opens ? (
        <Box
          component="button"
          type="button"
          title="Open the whole value"
          onClick={(event: React.MouseEvent<HTMLElement>) => onOpen(event.currentTarget)}
          sx={{
            all: 'unset',
            display: 'block',
            boxSizing: 'border-box',
            width: '100%',
            cursor: 'pointer',
            overflow: 'hidden',
            textOverflow: 'ellipsis',
            '&:hover': { textDecoration: 'underline dotted' },
            '&:focus-visible': { outline: 'auto', outlineOffset: -2 },
          }}
        >
          {text}
        </Box>
      ) : (
        text
      )}
    </Box>
  );
}
