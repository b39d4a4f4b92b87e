import type { ReactNode } from 'react';
interface PlanViewProps {
  readonly onBuild: (keys: readonly string[]) => void;
  readonly isBuilding: boolean;
}
/** The plan of the last run: its steps in the order of the work, the ways that were weighed, and what would help. */
export declare function PlanView({ onBuild, isBuilding }: PlanViewProps): import('react').JSX.Element;
export declare function Lines({ lines }: { lines: readonly number[] }): import('react').JSX.Element;
export declare function Code({ children }: { children: ReactNode }): import('react').JSX.Element;
export {};
