import Box from '@mui/material/Box';
import { parseValueText, readBest, writeBest, type BestForm as Best, type BestStage, type CheckedStage } from '@zesty-sieve/core/language';
import { isGivenName } from './ComputeForm.tsx';
import { AddButton, frame, RemoveButton, Typed, Word } from './parts.tsx';

const isValue = (typed: string): boolean => 'expression' in parseValueText(typed);
const isValueOrNone = (typed: string): boolean => typed === '' || isValue(typed);

/** The rows that score highest: how many, by which scores, and how much the places of each count. */
export function BestForm({ stage, onText }: { checked: CheckedStage; stage: BestStage; onText: (text: string) => void }) {
  const now = readBest(stage);
  const write = (next: Partial<Best>) => {
    const text = writeBest({ ...now, ...next });
    if (text !== undefined) onText(text);
  };
  const isFused = now.scores.length > 1;
  return (
    <Box sx={frame}>
      <Word word="best">{isFused ? 'keeps the best by the places that several scores give' : 'keeps the rows that score highest, best first'}</Word>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', pb: 1, flexWrap: 'wrap' }}>
        keeps
        <Box sx={{ width: 90, display: 'flex' }}>
          <Typed label="How many" value={now.count} isSound={isValue} onChange={(count) => write({ count })} />
        </Box>
        as
        <Box sx={{ width: 130, display: 'flex' }}>
          <Typed label="Name of the score" value={now.name} isSound={(typed) => typed === '' || isGivenName(typed)} onChange={(name) => write({ name })} />
        </Box>
      </Box>
      {now.scores.map((row, i) => (
        <Box key={i} sx={{ display: 'flex', gap: 1, alignItems: 'center', pb: 0.75 }}>
          <Box sx={{ fontSize: 12.5, width: 44 }}>{i === 0 ? 'by' : 'and by'}</Box>
          <Typed label="Score" value={row.score} isSound={isValue} onChange={(score) => write({ scores: now.scores.map((old, k) => (k === i ? { ...old, score } : old)) })} />
          {isFused && (
            <>
              weight
              <Box sx={{ width: 120, display: 'flex' }}>
                <Typed label="Weight" value={row.weight} isSound={isValueOrNone} onChange={(weight) => write({ scores: now.scores.map((old, k) => (k === i ? { ...old, weight } : old)) })} />
              </Box>
              <RemoveButton label="Remove the score" onClick={() => write({ scores: now.scores.filter((_, k) => k !== i) })} />
            </>
          )}
        </Box>
      ))}
      <AddButton onClick={() => write({ scores: [...now.scores, { score: '1', weight: '' }] })}>+ another score, fused by places</AddButton>
      {isFused && (
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', pt: 1, fontSize: 12.5 }}>
          of each ranking the first
          <Box sx={{ width: 120, display: 'flex' }}>
            <Typed label="Depth" value={now.depth} isSound={isValueOrNone} onChange={(depth) => write({ depth })} />
          </Box>
          places count (100 where nothing is said)
        </Box>
      )}
    </Box>
  );
} // prettier-ignore
