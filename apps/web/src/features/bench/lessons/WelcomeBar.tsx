import { useNavigate } from 'react-router';
import { useAppDispatch } from '../../../app/store.ts';
import { tabAdded } from '../../../state/bench/benchSlice.ts';
import { welcomed } from '../../../state/lessons.ts';
import { GuideAction, GuideBar } from './GuideBar.tsx';
import type { Lesson } from './lessons.ts';
import { useBeginLesson } from './useLesson.ts';

interface WelcomeBarProps {
  /** Whether it is known which documents there are. */
  readonly isKnown: boolean;
  /** The first lesson, where its documents are there. */
  readonly first: Lesson | undefined;
}

/** The ways in, for somebody who is here for the first time. */
export function WelcomeBar({ isKnown, first }: WelcomeBarProps) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const begin = useBeginLesson();
  const done = (work: () => void) => () => {
    dispatch(welcomed());
    work();
  };
  return (
    <GuideBar
      label="Ways to begin"
      actions={
        <>
          {first !== undefined && <GuideAction main onClick={() => begin(first)}>First lesson</GuideAction>}
          <GuideAction onClick={done(() => void navigate('/data', { state: { makes: true } }))}>A file of my own</GuideAction>
          <GuideAction onClick={done(() => dispatch(tabAdded()))}>An empty pipeline</GuideAction>
          <GuideAction onClick={done(() => undefined)}>Not now</GuideAction>
        </>
      }
    >
      <b>New here?</b> {isKnown && (first === undefined ? 'Bring documents, and ask about them.' : 'Short lessons lead through the job on the documents that are here.')}
    </GuideBar>
  );
} // prettier-ignore
