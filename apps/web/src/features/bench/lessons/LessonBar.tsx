import { useEffect } from 'react';
import { useAppDispatch, useAppSelector } from '../../../app/store.ts';
import { lessonEnded, stepDone } from '../../../state/lessons.ts';
import { GuideAction, GuideBar } from './GuideBar.tsx';
import { lessons, type Lesson } from './lessons.ts';
import { useBeginLesson, useLessonState, useShowStep } from './useLesson.ts';

/** The step of the lesson that is under way; it goes on by itself when what stands on the Bench shows that it was done. */
export function LessonBar({ lesson }: { readonly lesson: Lesson }) {
  const dispatch = useAppDispatch();
  const begin = useBeginLesson();
  const show = useShowStep();
  const { step } = useLessonState();
  const text = useAppSelector(({ bench }) => bench.text);
  const view = useAppSelector(({ bench }) => bench.view);
  const sql = useAppSelector(({ bench }) => bench.sql);
  const result = useAppSelector(({ bench }) => (bench.whole.answer?.asked.text === bench.text ? bench.whole.answer.result : null));
  const here = lesson.steps[step];
  const isDone = here?.isDone({ text, result, view, sql }) ?? false;
  useEffect(() => {
    if (isDone) dispatch(stepDone(lesson.steps.length));
  }, [isDone, step, lesson, dispatch]);

  const at = lessons.indexOf(lesson);
  const next = lessons[at + 1];
  const end = () => dispatch(lessonEnded());
  if (here === undefined)
    return (
      <GuideBar
        label="Lesson"
        actions={
          <>
            {next !== undefined && <GuideAction main onClick={() => begin(next)}>Next: {next.title}</GuideAction>}
            <GuideAction onClick={end}>Close</GuideAction>
          </>
        }
      >
        <b>{lesson.title}: done.</b> {next === undefined ? 'That was the last lesson; the reference (?) has all words of the notation.' : `Next comes ${next.about}.`}
      </GuideBar>
    );
  const { shows, showsSql = null } = here;
  return (
    <GuideBar
      label="Lesson"
      actions={
        <>
          {shows !== undefined && <GuideAction onClick={() => show({ text: shows, sql: showsSql })}>Show me</GuideAction>}
          <GuideAction onClick={() => dispatch(stepDone(lesson.steps.length))}>Skip</GuideAction>
          <GuideAction onClick={end}>End</GuideAction>
        </>
      }
    >
      <b>
        {lesson.title}, {step + 1} of {lesson.steps.length}:
      </b>{' '}
      {here.say}
    </GuideBar>
  );
} // prettier-ignore
