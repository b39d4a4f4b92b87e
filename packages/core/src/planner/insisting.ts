import { indexesOf } from './explain/reasons.ts';
import type { AccessPath } from './paths/path.ts';

/** Kinds of ways that a request may insist on: to compare ways with one another, whatever they cost. */
export const wayKinds = [
  'full scan',
  'index',
  'index order',
  'index only',
  'union',
  'intersection',
  'aggregate',
  'early order',
  'hash join',
  'index join',
] as const;
export type WayKind = (typeof wayKinds)[number];

const ofJoins: readonly WayKind[] = ['hash join', 'index join'];

/** A way that was insisted on cannot answer the question. */
export class WayRefused extends Error {}

/** What a request insists on. */
export class Insistence {
  private readonly useIndex: readonly string[];
  private readonly toDocuments: readonly WayKind[];
  private readonly toPartners: readonly WayKind[];

  constructor(useIndex: readonly string[] = [], ways: readonly WayKind[] = []) {
    this.useIndex = useIndex;
    this.toDocuments = ways.filter((way) => !ofJoins.includes(way));
    this.toPartners = ways.filter((way) => ofJoins.includes(way));
  }

  /** Of several ways to the documents the one to take: the cheapest of those that are insisted on; undefined to leave it open. */
  choose(ways: readonly AccessPath[]): AccessPath | undefined {
    const { useIndex, toDocuments } = this;
    const wanted = toDocuments.length === 0 ? ways : ways.filter((way) => kindsOf(way).some((kind) => toDocuments.includes(kind)));
    if (useIndex.length === 0) return toDocuments.length === 0 ? undefined : leastOf(wanted);
    // All of them at once, if that can be; else some of them.
    const named = wanted.filter((way) => namesOf(way).length > 0 && namesOf(way).every((name) => useIndex.includes(name)));
    const whole = named.filter((way) => useIndex.every((name) => namesOf(way).includes(name)));
    return leastOf(whole) ?? leastOf(named) ?? (toDocuments.length === 0 ? undefined : leastOf(wanted));
  }

  /** Whether it is left to cost which way is taken to the documents. */
  get isOpen(): boolean {
    return this.useIndex.length === 0 && this.toDocuments.length === 0;
  }
  get isOfDocuments(): boolean {
    return this.toDocuments.length > 0;
  }
  wants(kind: WayKind): boolean {
    return this.toDocuments.includes(kind);
  }
  /** Whether a way of a kind may be taken that the documents are not looked for by. */
  allows(kind: WayKind): boolean {
    return this.toDocuments.length === 0 || this.toDocuments.includes(kind);
  }
  names(index: string): boolean {
    return this.useIndex.includes(index);
  }
  allowsIndex(index: string): boolean {
    return this.useIndex.length === 0 || this.useIndex.includes(index);
  }

  /** Whether partners are to be looked up in an index, where one can be; undefined to go by cost. */
  get byIndex(): boolean | undefined {
    return this.toPartners.length === 1 ? this.toPartners[0] === 'index join' : undefined;
  }

  /** The same for a view within: what is insisted on concerns the documents that the pipeline begins with. */
  get ofPartners(): Insistence {
    return new Insistence(this.useIndex, this.toPartners);
  }

  refusal(): WayRefused {
    const indexes = this.useIndex.length === 0 ? '' : ` with ${this.useIndex.join(' and ')}`;
    return new WayRefused(
      `There is no way to these documents by ${this.toDocuments.join(' or ')}${indexes}. Leave it open, or ask otherwise.`,
    );
  }
}

function kindsOf({ kind, set, match, covering }: AccessPath): readonly WayKind[] {
  if (kind === 'fullScan') return ['full scan'];
  if (set !== undefined) return [set.combine];
  const inOrder: readonly WayKind[] = match?.ordered === undefined ? [] : ['index order'];
  if (covering !== undefined) return ['index only', ...inOrder];
  return inOrder.length > 0 ? inOrder : ['index'];
}

function namesOf(way: AccessPath): readonly string[] {
  return indexesOf(way).map(({ definition }) => definition.name);
}

function leastOf(ways: readonly AccessPath[]): AccessPath | undefined {
  return ways.reduce<AccessPath | undefined>((best, way) => (best === undefined || way.cost < best.cost ? way : best), undefined);
}
