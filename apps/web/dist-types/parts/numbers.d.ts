export declare function count(value: number): string;
/** `1 document`, `20 documents`. */
export declare function counted(value: number, one: string, many?: string): string;
export declare function duration(ms: number): string;
export declare function bytes(value: number): string;
/** A share that never rounds to none or to all. */
export declare function percent(share: number): string;
