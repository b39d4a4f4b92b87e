/** Where a pipeline is written, run and read. */
export declare function BenchScreen(): import('react').JSX.Element;
