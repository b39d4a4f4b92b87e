import CloseIcon from '@mui/icons-material/Close';
import Box from '@mui/material/Box';
import Drawer from '@mui/material/Drawer';
import IconButton from '@mui/material/IconButton';
import { stageKinds, stageWords } from '@zesty-sieve/core/language';
import { lexer, type MarkedToken, type Token, type Tokens } from 'marked';
import notation from '../../../../../docs/notation.md?raw';
import sql from '../../../../../docs/sql.md?raw';
import { useAppSelector } from '../../app/store.ts';
import { codeFont } from '../../app/theme.ts';

interface Part {
  readonly heading: string;
  readonly prose: readonly Tokens.Paragraph[];
  readonly rows: readonly (readonly Tokens.TableCell[])[];
}

const stageStart = new RegExp(`^(?:${stageKinds.map(stageWords).join('|')}|SELECT|WITH|DESCRIBE|SHOW|EXPLAIN) `);

/** The reference is one document, read here and on paper alike: a heading, prose and tables each part. */
function partsOf(markdown: string): Part[] {
  const parts: { heading: string; prose: Tokens.Paragraph[]; rows: Tokens.TableCell[][] }[] = [];
  for (const token of lexer(markdown) as MarkedToken[]) {
    const part = parts[parts.length - 1];
    if (token.type === 'heading' && token.depth === 2) parts.push({ heading: token.text, prose: [], rows: [] });
    else if (token.type === 'paragraph') part?.prose.push(token);
    else if (token.type === 'table') part?.rows.push(...token.rows);
  }
  return parts;
}

const faces = { notation: { title: 'The notation', parts: partsOf(notation) }, sql: { title: 'SQL', parts: partsOf(sql) } } as const;
const keys = [
  ['Ctrl Enter', 'run in full'],
  ['Ctrl S', 'save'],
  ['Ctrl /', 'switch the stage off, or on'],
  ['Alt ↑ ↓', 'move the stage'],
  ['Shift Alt ↓', 'write the stage once more'],
  ['Shift Alt F', 'format'],
  ['Tab', 'the next place of a template'],
  ['Ctrl F', 'find and replace'],
  ['Ctrl D', 'another cursor at the next of the same'],
  ['Ctrl Shift [ ]', 'fold a stage, or what stands under a comment; unfold'],
  ['Ctrl Alt [ ]', 'fold all; unfold all'],
  ['Alt + −', 'larger or smaller text; Alt 0 the usual'],
  ['Ctrl K', 'do anything by its name, or jump to a screen, a pipeline, a line'],
  ['P', 'plan or output, outside the editor'],
  ['?', 'this reference, outside the editor'],
] as const;

/** The language beside the editor, in the face that is written in: an example is put into the editor by a click. */
export function Reference({ open, onClose, onExample }: { open: boolean; onClose: () => void; onExample: (text: string) => void }) {
  const { title, parts } = useAppSelector(({ bench }) => (bench.sql === null ? faces.notation : faces.sql));
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
        <Box sx={{ flex: 1, fontSize: 15, fontWeight: 700 }}>{title}</Box>
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
                  <Cell key={k} cell={cell} onExample={onExample} />
                ))}
              </Box>
            ))}
            {prose.map(({ raw, tokens }) => (
              <Box component="p" key={raw} sx={{ fontSize: 12.5, color: 'text.secondary', my: 1 }}>
                <Inline tokens={tokens} />
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

/** Words, and code among them. */
function Inline({ tokens }: { readonly tokens: readonly Token[] }) {
  return tokens.map((token, i) => {
    if (token.type === 'codespan') return <code key={i}>{(token as Tokens.Codespan).text}</code>;
    if (token.type === 'strong') return <b key={i}>{(token as Tokens.Strong).text}</b>;
    return 'text' in token ? String(token.text) : token.raw;
  });
}

function Cell({ cell, onExample }: { readonly cell: Tokens.TableCell; readonly onExample: (text: string) => void }) {
  const [only, ...others] = cell.tokens;
  const code = only?.type === 'codespan' && others.length === 0 ? (only as Tokens.Codespan).text : undefined;
  if (code === undefined || code.includes('<br>') || /\b(?:NAME|COND|ITEM|EXPR|PATH|N)\b/.test(code))
    return (
      <Box sx={{ fontSize: 12.5 }}>
        <Inline tokens={cell.tokens} />
      </Box>
    );
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
