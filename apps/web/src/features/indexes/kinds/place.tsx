import { counted } from '../../../parts/numbers.ts';
import type { IndexKindView } from './kind.ts';
import { PathField } from './PathField.tsx';

/** Places on the globe. */
export const place: IndexKindView<'place', string> = {
  title: 'Place',
  doc: 'What lies within a circle, and the nearest first.',
  empty: '',
  request: (path) => (path.trim() === '' ? undefined : { kind: 'place', keys: [path.trim()] }),
  Fields: ({ draft, wrong, onChange }) => (
    <PathField
      label="Path"
      value={draft}
      placeholder="@.position"
      help="To a GeoJSON Point, or to [longitude, latitude]"
      wrong={wrong}
      onPath={onChange}
    />
  ),
  takesCondition: false,
  Summary: ({ summary: { entries } }) => <>{counted(entries, 'place')}</>,
  heading: ({ keys }) => keys.join(', '),
  facts: () => ['place'],
  again: ({ keys }) => ({ kind: 'place', keys }),
};
