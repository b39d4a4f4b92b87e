import Button, { type ButtonProps } from '@mui/material/Button';
import type { WishedIndex } from '../../../parts/plan/indexNames.ts';
import type { IndexBuilder } from '../state/useBuild.ts';

const told = { building: 'Building …', measuring: 'Measuring …' } as const;

interface BuildButtonProps extends Omit<ButtonProps, 'onClick' | 'children' | 'disabled'> {
  readonly builder: IndexBuilder;
  readonly indexes: readonly WishedIndex[];
  readonly label: string;
}

/** Builds what indexes a question takes and measures them; for one question at a time. */
export function BuildButton({ builder, indexes, label, ...button }: BuildButtonProps) {
  const { phase, build } = builder;
  return (
    <Button color="info" disabled={phase !== 'idle'} onClick={() => build(indexes)} {...button}>
      {phase === 'idle' ? label : told[phase]}
    </Button>
  );
}
