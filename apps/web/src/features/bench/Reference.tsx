import CloseIcon from '@mui/icons-material/Close';
import Box from '@mui/material/Box';
import Drawer from '@mui/material/Drawer';
import IconButton from '@mui/material/IconButton';
import { stageKinds, stageWords } from '@zesty-sieve/core/language';
import notation from '../../../../../docs/notation.md?raw';
import { codeFont } from '../../app/theme.ts';

interface Part {
  readonly heading: string;
  readonly prose: readonly string[];
  readonly rows: readonly (readonly string[])[];
}

const stageStart = new RegExp(`^(?:${stageKinds.map(stageWords).join('|')}) `);

/** The reference is one document, read here and on paper alike. */
function partsOf(markdown: string): Part[] {
  return markdown
    .split(/^## /m)
    .slice(1)
    .map((section) => {
      const [heading = '', ...lines] = section.split('\n');
      const rows = lines
        .filter((line) => line.startsWith('|') && !line.startsWith('| ---'))
        .slice(1)
        .map((line) => line.slice(1, -1).split(/(?<!\\)\|/).map((cell) => cell.trim().replaceAll('\\|', '|'))); // prettier-ignore
      const prose = lines.filter((line) => !line.startsWith('|')).join('\n').split('\n\n').map((text) => text.trim()).filter((text) => text !== ''); // prettier-ignore
      return { heading, prose, rows };
    });
}

const parts = partsOf(notation);
const keys = [
  ['Ctrl Enter', 'run in full'],
  ['Ctrl S', 'save'],
  ['Ctrl /', 'switch the stage off, or on'],
  ['Alt ↑ ↓', 'move the stage'],
  ['Shift Alt ↓', 'write the stage once more'],
  ['Ctrl K', 'jump to a screen, a pipeline, a collection, a line'],
  ['Shift Alt F', 'format'],
  ['P', 'plan or output, outside the editor'],
  ['?', 'this reference, outside the editor'],
] as const;

/** The notation beside the editor: an example is put into the editor by a click. */
export function Reference({ open, onClose, onExample }: { open: boolean; onClose: () => void; onExample: (text: string) => void }) {
  return (
    <Drawer
      anchor="right"
      variant="persistent"
      open={open}
      slotProps={{
        paper: { sx: { width: 470, boxShadow: '-8px 0 28px rgb(35 38 46 / 0.12)' }, role: 'complementary', 'aria-label': 'Reference' },
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', px: 2.5, py: 1.25, borderBottom: 1, borderColor: 'divider' }}>
        <Box sx={{ flex: 1, fontSize: 15, fontWeight: 700 }}>The notation</Box>
        <IconButton aria-label="Close the reference" onClick={onClose} size="small">
          <CloseIcon fontSize="small" />
        </IconButton>
      </Box>
      <Box sx={{ overflow: 'auto', px: 2.5, pb: 4 }}>
        <Heading>Keys</Heading>
        {keys.map(([key, does]) => (
          <Box key={key} sx={{ display: 'flex', gap: 2, fontSize: 12.5, py: 0.25 }}>
            <Box component="kbd" sx={{ width: 92, fontFamily: codeFont, fontSize: 12 }}>
              {key}
            </Box>
            {does}
          </Box>
        ))}
        {parts.map(({ heading, prose, rows }) => (
          <Box key={heading}>
            <Heading>{heading}</Heading>
            {rows.map((cells, i) => (
              <Box key={i} sx={{ py: 0.75, borderTop: 1, borderColor: 'divider' }}>
                {cells.map((cell, k) => (
                  <Cell key={k} text={cell} onExample={onExample} />
                ))}
              </Box>
            ))}
            {prose.map((text) => (
              <Box component="p" key={text} sx={{ fontSize: 12.5, color: 'text.secondary', my: 1 }}>
                {text.replaceAll('`', '')}
              </Box>
            ))}
          </Box>
        ))}
      </Box>
    </Drawer>
  );
}

function Heading({ children }: { children: string }) {
  return (
    <Box component="h3" sx={{ fontSize: 13, fontWeight: 700, mt: 2, mb: 0.75 }}>
      {children}
    </Box>
  );
}

function Cell({ text, onExample }: { text: string; onExample: (text: string) => void }) {
  const code = /^`(.*)`$/.exec(text)?.[1];
  if (code === undefined || /\b(?:NAME|COND|ITEM|EXPR|PATH|N)\b/.test(code))
    return <Box sx={{ fontSize: 12.5 }}>{text.replaceAll('`', '')}</Box>;
  if (!stageStart.test(code)) return <code>{code}</code>;
  return (
    <Box
      component="button"
      type="button"
      title="Put it into the editor"
      onClick={() => onExample(code)}
      sx={{
        all: 'unset',
        boxSizing: 'border-box',
        display: 'block',
        width: '100%',
        cursor: 'pointer',
        my: 0.4,
        px: 1,
        py: 0.4,
        borderRadius: 1,
        fontFamily: codeFont,
        fontVariantLigatures: 'none',
        fontSize: 12,
        bgcolor: (t) => t.roles.form,
        border: 1,
        borderColor: 'divider',
        overflowWrap: 'anywhere',
        '&:hover, &:focus-visible': { borderColor: 'secondary.main' },
      }}
    >
      {code}
    </Box>
  );
}
