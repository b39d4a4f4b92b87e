import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useCollectionsQuery } from '../../../api/collections.ts';
import { lessons } from './lessons.ts';
import { useBeginLesson, useLessonState } from './useLesson.ts';

/** The lessons that the documents here allow, and which were gone through. */
export function LessonList({ onBegun }: { readonly onBegun: () => void }) {
  const { data: collections = [] } = useCollectionsQuery();
  const { done } = useLessonState();
  const begin = useBeginLesson();
  const possible = lessons.filter(({ needs }) => collections.some(({ name }) => name === needs));
  if (possible.length === 0) return null;
  return (
    <Box component="section" aria-label="Lessons" sx={{ px: 2, pt: 1, pb: 0.5, borderBottom: '1px dashed', borderColor: 'divider' }}>
      <Box sx={{ fontSize: 11, color: 'text.secondary' }}>lessons: {done.length} of {possible.length} done</Box>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5, py: 0.5 }}>
        {possible.map((lesson) => (
          <Button key={lesson.id} size="small" variant="outlined" title={lesson.about} sx={{ borderColor: 'divider', py: 0.1 }} onClick={() => (begin(lesson), onBegun())}>
            {done.includes(lesson.id) ? '✓ ' : ''}{lesson.title}
          </Button>
        ))}
      </Box>
    </Box>
  );
} // prettier-ignore
