import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { CheckedStage } from '@zesty-sieve/core/language';
import type { ReactNode } from 'react';
import { offeredFields } from './fields.ts';
import { StageForm } from './StageForm.tsx';
import type { StageFormProps } from './stageFormProps.ts';
import type { StageStart } from './stageStarts.ts';

interface StageAreaProps extends Omit<StageFormProps, 'checked'> {
  readonly label: string;
  /** The stage at the cursor, if the cursor stands in one. */
  readonly checked: CheckedStage | undefined;
  readonly starts: readonly StageStart[];
  readonly onAdd: (text: string) => void;
  /** What else can be done with the line. */
  readonly children?: ReactNode;
}

/** What stands under an editor: the form of the stage at the cursor, and what may come after it. */
export function StageArea({ label, checked, starts, onAdd, children, ...form }: StageAreaProps) {
  const firstField = (checked && offeredFields(checked.after)[0]?.path) ?? '@.id';
  return (
    <Box
      component="section"
      aria-label={label}
      sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column', bgcolor: (t) => t.roles.form }}
    >
      {/* Whatever stands here takes all the room, so that what comes below stays where it is. */}
      <Box sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column' }}>
        {checked && <StageForm key={`${checked.placed.line}-${checked.placed.stage?.kind ?? ''}`} checked={checked} {...form} />}
      </Box>
      <Box
        sx={{
          flex: 'none',
          display: 'flex',
          alignItems: 'center',
          px: 1.5,
          py: 0.25,
          borderTop: 1,
          borderColor: 'divider',
          fontSize: 12,
          color: 'text.secondary',
          whiteSpace: 'nowrap',
        }}
      >
        <Box component="span" sx={{ pr: 0.5 }}>
          add after
        </Box>
        {/* One row, whatever the width: it is always in the same place, and goes on to the right. */}
        <Box sx={{ flex: 1, minWidth: 0, display: 'flex', overflowX: 'auto', scrollbarWidth: 'thin' }}>
          {starts.map((start) => (
            <Button
              key={start.word}
              size="small"
              onClick={() => onAdd(start.text(firstField))}
              sx={{ minWidth: 0, flex: 'none', px: 0.7, py: 0, fontSize: 12, fontWeight: 500 }}
            >
              {start.word}
            </Button>
          ))}
        </Box>
        {children}
      </Box>
    </Box>
  );
}
