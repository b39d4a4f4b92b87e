import { type Environment } from '@zesty-sieve/core/language';
/** What the language needs to know of the server's collections, for a pipeline that reads one of them. */
export declare function useEnvironment(source: string | undefined): Environment;
