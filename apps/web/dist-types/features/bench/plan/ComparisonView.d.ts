import { type Comparison } from '../state/benchSlice.ts';
/** Before and after an index was built, measured in turn on the same question. */
export declare function ComparisonView({ comparison }: { comparison: Comparison }): import('react').JSX.Element;
