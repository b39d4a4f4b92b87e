/** What the run cost: a sentence led by the yield, the steps' time as one bar, and what would help most. */
export declare function CostStrip(): import('react').JSX.Element;
