import Box from '@mui/material/Box';
import { printExpression, printGivenName, stageWords, type CheckedStage, type JoinStage } from '@zesty-sieve/core/language';
import { useAppDispatch, useAppSelector } from '../../../app/store.ts';
import { count } from '../../numbers.ts';
import { opened } from '../../../state/bench/benchSlice.ts';
import { useWrittenText } from '../writtenText.ts';

/** How many rows met how many partners, in the last run; each opens as a list of its rows. */
export function Matches({ checked, stage }: { checked: CheckedStage; stage: JoinStage }) {
  const plan = useAppSelector(({ bench }) => bench.whole.answer?.result.plan);
  const { text, parameters } = useWrittenText();
  const dispatch = useAppDispatch();
  const found = plan === undefined ? undefined : matchesAt(plan, checked.placed.line);
  if (found === undefined) return null;
  const name = printGivenName(stage.target.names);
  const open = (condition: string) => {
    const gathered = `${stageWords('gatherJoin')} ${stage.source} as ${name} on ${printExpression(stage.condition)}`;
    dispatch(opened({ text: `${text.slice(0, checked.placed.from)}${gathered}\nwhere ${condition}\n`, parameters: { ...parameters } }));
  };
  const rows = `length(@.${name})`;
  const link = (label: string, n: number, condition: string, isOdd: boolean) => (
    <Box
      component="button"
      type="button"
      disabled={n === 0}
      title={`Open the rows that met ${label}`}
      onClick={() => open(condition)}
      sx={{
        all: 'unset',
        cursor: n === 0 ? 'default' : 'pointer',
        textDecoration: n === 0 ? 'none' : 'underline',
        color: isOdd && n > 0 ? 'secondary.main' : 'inherit',
        '&:focus-visible': { outline: 'auto' },
      }}
    >
      <b>{count(n)}</b>
      {label === 'one partner' ? ' rows met one partner' : ` ${label}`}
    </Box>
  );
  return (
    <Box aria-label="Rows and their partners" sx={{ fontSize: 12.5, color: 'text.secondary', pb: 1 }}>
      {link('one partner', found.one, `${rows} == 1`, false)}, {link('none', found.none, `${rows} == 0`, true)},{' '}
      {link('several', found.several, `${rows} > 1`, true)}
    </Box>
  );
}

interface Step {
  readonly lines: readonly number[];
  readonly matches?: { readonly none: number; readonly one: number; readonly several: number };
  readonly inputs: readonly Step[];
}

function matchesAt(step: Step, line: number): Step['matches'] {
  if (step.matches && step.lines.includes(line)) return step.matches;
  for (const input of step.inputs) {
    const found = matchesAt(input, line);
    if (found) return found;
  }
  return undefined;
}
