import { lazy, Suspense, type ComponentType } from 'react';

/** A part that is fetched when it is first shown: nothing of it is in the way of the page's first sight. */
export function later<P extends object>(load: () => Promise<ComponentType<P>>): (props: P) => React.JSX.Element {
  const Part = lazy(async () => ({ default: await load() }));
  return (props) => (
    <Suspense fallback={null}>
      <Part {...(props as P & React.JSX.IntrinsicAttributes)} />
    </Suspense>
  );
}
