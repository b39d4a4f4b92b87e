import { useCollectionsQuery } from '../../../api/collections.ts';
import { LessonBar } from './LessonBar.tsx';
import { lessons } from './lessons.ts';
import { useLessonState } from './useLesson.ts';
import { WelcomeBar } from './WelcomeBar.tsx';

/** What leads those who are new: the ways in, or the lesson that is under way. */
export function Guide() {
  const { data: collections } = useCollectionsQuery();
  const { id, isWelcomed } = useLessonState();
  const lesson = lessons.find((one) => one.id === id);
  if (lesson !== undefined) return <LessonBar lesson={lesson} />;
  if (isWelcomed || collections === undefined) return null;
  const [first] = lessons;
  return <WelcomeBar first={collections.some(({ name }) => name === first?.needs) ? first : undefined} />;
}
