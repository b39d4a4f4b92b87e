import type { IndexInfo } from '@zesty-sieve/contract';
import { splitKeys } from '../../../parts/keys.ts';
import { LanguageSelect } from '../../../parts/LanguageSelect.tsx';
import type { IndexKindView } from './kind.ts';
import { PathField } from './PathField.tsx';
import { TextSummary } from './TextSummary.tsx';

interface TextDraft {
  readonly paths: string;
  readonly language: Extract<IndexInfo, { kind: 'text' }>['language'];
}

/** Words of texts. */
export const text: IndexKindView<'text', TextDraft> = {
  title: 'Text',
  doc: 'Words of texts: which documents mention them, and which answer them best.',
  empty: { paths: '', language: 'english' },
  request: ({ paths, language }) =>
    splitKeys(paths).length === 0 ? undefined : { kind: 'text', keys: splitKeys(paths), ...(language !== null && { language }) },
  Fields: ({ draft, wrong, onChange }) => (
    <>
      <PathField
        label="Paths"
        value={draft.paths}
        placeholder="@.headline, @.text"
        help="Each to a text, or to an array of texts"
        wrong={wrong}
        onPath={(paths) => onChange({ ...draft, paths })}
      />
      <LanguageSelect
        value={draft.language}
        onLanguage={(language) => onChange({ ...draft, language })}
        helperText="Of its stems and stop words"
        sx={{ minWidth: 170 }}
      />
    </>
  ),
  takesCondition: false,
  Summary: TextSummary,
  heading: ({ keys }) => keys.join(', '),
  facts: ({ language }) => ['text', language ?? 'no language'],
  again: ({ keys, language }) => ({ kind: 'text', keys, ...(language !== null && { language }) }),
};
