import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Fragment, useState, type ReactNode } from 'react';
import { codeFont } from '../app/theme.ts';

interface JsonViewProps {
  readonly value: unknown;
  /** Levels that are open at first. */
  readonly open?: number;
}

/** Entries of one array or object that are drawn before more are asked for. */
const drawnAtOnce = 200;

/** A JSON value that folds; of long arrays and objects as much as is asked for is drawn. */
export function JsonView({ value, open = 2 }: JsonViewProps) {
  return (
    <Box
      component="div"
      sx={{ fontFamily: codeFont, fontVariantLigatures: 'none', fontSize: 12, lineHeight: '19px', overflowWrap: 'anywhere' }}
    >
      <Node value={value} open={open} last />
    </Box>
  );
}

function Node({ name, value, open, last }: { name?: string; value: unknown; open: number; last: boolean }) {
  const [shown, setShown] = useState(open > 0);
  const [most, setMost] = useState(drawnAtOnce);
  const key = name === undefined ? null : <Box component="span" sx={{ color: (t) => t.roles.path }}>{JSON.stringify(name)}: </Box>; // prettier-ignore
  const comma = last ? '' : ',';
  if (typeof value !== 'object' || value === null) {
    return (
      <div>
        {key}
        <Scalar value={value} />
        {comma}
      </div>
    );
  }
  const isArray = Array.isArray(value);
  const entries: [string | undefined, unknown][] = isArray ? value.map((item) => [undefined, item]) : Object.entries(value);
  const [opening, closing] = isArray ? '[]' : '{}';
  if (entries.length === 0) return <Line>{key}{opening}{closing}{comma}</Line>; // prettier-ignore
  const what = isArray
    ? `${entries.length} element${entries.length === 1 ? '' : 's'}`
    : `${entries.length} field${entries.length === 1 ? '' : 's'}`;
  return (
    <div>
      <Box
        component="button"
        type="button"
        aria-expanded={shown}
        onClick={() => setShown(!shown)}
        sx={{ all: 'unset', cursor: 'pointer', '&:hover': { bgcolor: 'action.hover' }, '&:focus-visible': { outline: 'auto' } }}
      >
        {key}
        {opening}
        {
          !shown && <Box component="span" sx={{ color: 'text.secondary' }}> {isArray ? what : foldedText(entries, what)} {closing}{comma}</Box> /* prettier-ignore */
        }
      </Box>
      {shown && (
        <>
          <Box sx={{ pl: 2.25, borderLeft: '1px solid', borderColor: 'divider', ml: 0.5 }}>
            {entries.slice(0, most).map(([entryName, item], i) => (
              <Fragment key={entryName ?? i}>
                <Node name={entryName} value={item} open={open - 1} last={i === entries.length - 1} />
              </Fragment>
            ))}
            {entries.length > most && (
              <Button size="small" sx={{ py: 0, fontSize: 12 }} onClick={() => setMost(most + drawnAtOnce)}>
                {`${(entries.length - most).toLocaleString('en')} more`}
              </Button>
            )}
          </Box>
          {closing}
          {comma}
        </>
      )}
    </div>
  );
}

const shownFolded = 3;
const longestFolded = 24;

/** The first plain fields of an object that is folded, by which one is told from another, and how many there are. */
function foldedText(entries: readonly [string | undefined, unknown][], what: string): string {
  const plain = entries.filter(([, value]) => typeof value !== 'object' || value === null).slice(0, shownFolded);
  const told = plain.map(([name, value]) => `${JSON.stringify(name)}: ${shortened(JSON.stringify(value))}`);
  return told.length === entries.length ? told.join(', ') : [...told, `… ${what}`].join(', ');
}

function shortened(text: string): string {
  return text.length > longestFolded ? `${text.slice(0, longestFolded)}…` : text;
}

function Line({ children }: { children: ReactNode }) {
  return <div>{children}</div>;
}

function Scalar({ value }: { value: unknown }) {
  const colour = typeof value === 'string' ? 'text' : typeof value === 'number' ? 'number' : 'zest';
  return (
    <Box component="span" sx={{ color: (theme) => theme.roles[colour] }}>
      {value === undefined ? '' : JSON.stringify(value)}
    </Box>
  );
}
