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
  if (isWelcomed) return null;
  const [first] = lessons;
  // The bar has its place before it is known what there is: what stands below it moves under nobody's pointer.
  return (
    <WelcomeBar isKnown={collections !== undefined} first={collections?.some(({ name }) => name === first?.needs) ? first : undefined} />
  );
}
