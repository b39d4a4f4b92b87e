import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { Edit } from '@zesty-sieve/core/language';
import { useState } from 'react';
import { useAppSelector } from '../../../app/store.ts';
import type { Answered } from '../../../state/bench/benchState.ts';

const shownAtFirst = 2;

/** What a run noticed, such as values that an expression could not use, each with its mend. */
export function NoteList({ answer, onMend }: { answer: Answered; onMend: (edits: readonly Edit[]) => void }) {
  const isOfText = useAppSelector(({ bench }) => answer.asked.text === bench.text);
  const [isWhole, setWhole] = useState(false);
  const { notes } = answer.result;
  if (notes.length === 0) return null;
  const shown = isWhole ? notes : notes.slice(0, shownAtFirst);
  return (
    <Box
      component="ul"
      aria-label="What the run noticed"
      sx={{ m: 0, p: 0, listStyle: 'none', borderBottom: 1, borderColor: 'divider', bgcolor: (t) => t.roles.form, fontSize: 12.5 }}
    >
      {shown.map((note, i) => (
        <Box component="li" key={i} sx={{ display: 'flex', alignItems: 'center', gap: 1.5, px: 2, py: 0.6 }}>
          <span>
            Line {note.line}: {note.message}
          </span>
          {/* The mend's places are those of the text that was asked. */}
          {note.mend && isOfText && (
            <Button
              size="small"
              variant="outlined"
              color="info"
              onClick={() => onMend(note.mend?.edits ?? [])}
              sx={{ py: 0, flex: 'none' }}
            >
              {note.mend.label}
            </Button>
          )}
        </Box>
      ))}
      {notes.length > shown.length && (
        <Box component="li" sx={{ px: 1 }}>
          <Button size="small" onClick={() => setWhole(true)} sx={{ py: 0, fontSize: 12 }}>
            {notes.length - shown.length} more
          </Button>
        </Box>
      )}
    </Box>
  );
}
