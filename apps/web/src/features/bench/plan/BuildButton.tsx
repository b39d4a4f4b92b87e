import Button, { type ButtonProps } from '@mui/material/Button';
import type { IndexBuilder } from '../state/useBuild.ts';

const told = { building: 'Building …', measuring: 'Measuring …' } as const;

interface BuildButtonProps extends Omit<ButtonProps, 'onClick' | 'children' | 'disabled'> {
  readonly builder: IndexBuilder;
  readonly keys: readonly string[];
  readonly label: string;
}

/** Builds an index for the question and measures it; one at a time. */
export function BuildButton({ builder, keys, label, ...button }: BuildButtonProps) {
  const { phase, build } = builder;
  return (
    <Button color="info" disabled={phase !== 'idle'} onClick={() => build(keys)} {...button}>
      {phase === 'idle' ? label : told[phase]}
    </Button>
  );
}
