import type { SavedPipeline } from '@zesty-sieve/contract';
import { topicOf, topics } from '@zesty-sieve/core/language';

/** In which order saved pipelines are listed. */
export type ListOrder = 'learnt' | 'used';

export interface Section {
  readonly caption: string;
  readonly pipelines: readonly SavedPipeline[];
}

const sqlCaption = 'SQL';
const captionOf = ({ sql, pipeline }: SavedPipeline): string => (sql === null ? topicOf(pipeline) : sqlCaption);

/** Whether a pipeline has each of some words in its name, its sentence or its lines. */
function isMeant({ name, note, sql, pipeline }: SavedPipeline, words: readonly string[]): boolean {
  const text = `${name}\n${note ?? ''}\n${sql ?? pipeline}`.toLowerCase();
  return words.every((word) => text.includes(word));
}

/**
 * Saved pipelines as a panel shows them: by what they are about, in the order in which the job is learnt; or those used last first.
 * @param recent names, the last used first
 */
export function listed(pipelines: readonly SavedPipeline[], { search, order, recent }: { readonly search: string; readonly order: ListOrder; readonly recent: readonly string[] }): Section[] {
  const words = search.toLowerCase().split(/\s+/).filter((word) => word !== '');
  const meant = pipelines.filter((one) => isMeant(one, words));
  if (order === 'used') {
    const used = recent.flatMap((name) => meant.filter((one) => one.name === name));
    const others = meant.filter((one) => !used.includes(one));
    return [{ caption: 'used last', pipelines: used }, { caption: 'all others', pipelines: others }].filter((section) => section.pipelines.length > 0);
  }
  return [...topics, sqlCaption]
    .map((caption) => ({ caption, pipelines: meant.filter((one) => captionOf(one) === caption) }))
    .filter((section) => section.pipelines.length > 0);
} // prettier-ignore
