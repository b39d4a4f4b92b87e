/** Builds an index, measures the question with and without it, and runs it again. */
export declare function useBuild(
  collection: string | undefined,
  runInFull: () => void,
): {
  build: (keys: readonly string[]) => void;
  isBuilding: boolean;
};
