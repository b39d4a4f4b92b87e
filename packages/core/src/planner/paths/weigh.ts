import type { IndexDefinition } from '../../indexes/definition.ts';
import { kindOf } from '../../indexes/kinds.ts';
import type { AskedSource } from '../askedSource.ts';
import type { Insistence } from '../insisting.ts';
import type { PlanOptions } from '../planRequest.ts';
import { imagined, type IndexStatistics } from '../statistics.ts';
import { whatIfOthers } from './others.ts';
import { fullScanPath } from './fullScan.ts';
import { indexPaths, pathsByDocuments } from './ordered.ts';
import { leastOf, type AccessPath, type UselessIndex } from './path.ts';
import { positionsPaths } from './positions.ts';
import { intersectionPaths, unionPaths } from './sets.ts';

/** The paths to a source's documents, and the one that is taken. */
export interface WeighedPaths {
  readonly chosen: AccessPath;
  readonly paths: readonly AccessPath[];
  readonly useless: readonly UselessIndex[];
  /** The ordered indexes that were looked at. */
  readonly considered: readonly IndexStatistics[];
  /** Whether a kind of path is insisted on that there is none of. */
  readonly isRefused: boolean;
}

/** Weighs every path to a source's documents, and takes the one that costs least or that is insisted on. */
export function weigh({ source, question, selectivity, constant }: AskedSource, options: PlanOptions, insisted: Insistence): WeighedPaths {
  const isOrdered = (definition: IndexDefinition) => kindOf(definition).access.by === 'order';
  const whatIf = options.whatIf ?? [];
  const statistics = [...source.indexes, ...whatIf.filter(isOrdered).map((definition) => imagined(definition, source.sample()))];
  const otherKinds = whatIfOthers(source, options);
  const others = otherKinds.map((index) => positionsPaths(source, index, question, selectivity, constant));
  const considered = statistics.filter(({ definition }) => !options.ignoreIndexes?.includes(definition.name));
  const looked = considered.map((index) => indexPaths(source, index, question, selectivity));
  const single = looked.flatMap((ways) => (isUseless(ways) ? [] : [leastOf(ways)]));
  const sets = (isAllowed: (index: string) => boolean) => {
    const allowed = <I extends Pick<IndexStatistics, 'definition'>>(all: readonly I[]) => all.filter(({ definition }) => isAllowed(definition.name)); // prettier-ignore
    const indexes = { ordered: allowed(considered), others: allowed(otherKinds), valueOf: constant };
    return [...unionPaths({ source, question, selectivity }, indexes), ...intersectionPaths({ source, question, selectivity }, indexes)];
  };
  const byPositions = others.flatMap((found) => (isUseless(found) ? [] : found));
  const ways = [fullScanPath(source, question, selectivity), ...single, ...sets(() => true), ...byPositions];
  const usual = leastOf(ways);
  const all = (): AccessPath[] => {
    const named = considered.filter(({ definition }) => insisted.allowsIndex(definition.name));
    const further = named.flatMap((index) => {
      const own = indexPaths(source, index, question, selectivity);
      return [...(isUseless(own) ? [] : own), ...pathsByDocuments(source, index, question, selectivity)];
    });
    return [ways[0]!, ...further, ...sets((name) => insisted.allowsIndex(name)), ...byPositions];
  };
  const chosen = insisted.isOpen ? undefined : insisted.choose(all());
  const told = chosen === undefined || ways.includes(chosen) ? ways : [...ways, chosen];
  return {
    chosen: chosen ?? usual,
    paths: told,
    useless: [...looked, ...others].filter(isUseless),
    considered,
    isRefused: chosen === undefined && insisted.isOfDocuments,
  };
}

function isUseless(ways: readonly AccessPath[] | UselessIndex): ways is UselessIndex {
  return !Array.isArray(ways);
}
