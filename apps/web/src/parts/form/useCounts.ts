import { apiUrl } from '../../api/apiUrl.ts';
import { canonicalCondition, type ConditionForm } from '@zesty-sieve/core/language';
import type { ConditionCountsAnswer } from '@zesty-sieve/contract';
import { useEffect, useMemo, useState } from 'react';
import { postText, useAskedLater } from '../asking/useAskedLater.ts';
import { parametersFor } from '../../state/bench/parameters.ts';
import { useWrittenText } from './writtenText.ts';

const pauseMs = 400;

export interface Counts {
  readonly alone: ReadonlyMap<string, number | null>;
  readonly reaching: number | undefined;
  readonly together: number | undefined;
}

const none: Counts = { alone: new Map(), reaching: undefined, together: undefined };

/** How many of the rows that reach a line each condition of its form keeps; ended when the text changes. */
export function useCounts(line: number, form: ConditionForm): Counts {
  const { text, parameters } = useWrittenText();
  const [counts, setCounts] = useState<Counts>(none);
  const whole = canonicalCondition(form);
  const conditions = useMemo(() => {
    const texts = new Set<string>();
    const visit = (node: ConditionForm): void => {
      if (node.kind === 'group') node.items.forEach(visit);
      const own = node.kind === 'group' ? undefined : canonicalCondition(node);
      if (own !== undefined) texts.add(own);
    };
    visit(form);
    return [...texts, ...(whole === undefined ? [] : [whole])];
  }, [form, whole]);
  const key = conditions.join('\n');
  const body =
    key === '' ? undefined : JSON.stringify({ pipeline: text, line, conditions: key.split('\n'), parameters: parametersFor(parameters) });
  useEffect(() => {
    if (key === '') setCounts(none);
  }, [key]);
  useAskedLater(
    body,
    async (question, signal) => {
      const answer = await postText(apiUrl('counts'), question, signal).catch(() => undefined);
      if (signal.aborted) return;
      if (!answer?.ok) {
        setCounts(none);
        return;
      }
      const { rows, alone } = (await answer.json()) as ConditionCountsAnswer;
      const byText = new Map(key.split('\n').map((condition, i) => [condition, alone[i] ?? null]));
      setCounts({ alone: byText, reaching: rows, together: whole === undefined ? undefined : (byText.get(whole) ?? undefined) });
    },
    pauseMs,
  );
  return counts;
}
