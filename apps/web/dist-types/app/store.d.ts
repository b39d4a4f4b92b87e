export declare const store: import('@reduxjs/toolkit').EnhancedStore<
  {
    api: import('@reduxjs/toolkit/query').CombinedState<
      {
        collections: import('@reduxjs/toolkit/query').QueryDefinition<
          void,
          import('@reduxjs/toolkit/query').BaseQueryFn<
            string | import('@reduxjs/toolkit/query').FetchArgs,
            unknown,
            import('@reduxjs/toolkit/query').FetchBaseQueryError,
            {},
            import('@reduxjs/toolkit/query').FetchBaseQueryMeta
          >,
          'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
          {
            name: string;
            identity: string;
            count: number;
            bytes: number;
          }[],
          'api',
          unknown
        >;
        createCollection: import('@reduxjs/toolkit/query').MutationDefinition<
          {
            name: string;
            identity: string;
          },
          import('@reduxjs/toolkit/query').BaseQueryFn<
            string | import('@reduxjs/toolkit/query').FetchArgs,
            unknown,
            import('@reduxjs/toolkit/query').FetchBaseQueryError,
            {},
            import('@reduxjs/toolkit/query').FetchBaseQueryMeta
          >,
          'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
          {
            name: string;
            identity: string;
            count: number;
            bytes: number;
          },
          'api',
          unknown
        >;
        removeCollection: import('@reduxjs/toolkit/query').MutationDefinition<
          string,
          import('@reduxjs/toolkit/query').BaseQueryFn<
            string | import('@reduxjs/toolkit/query').FetchArgs,
            unknown,
            import('@reduxjs/toolkit/query').FetchBaseQueryError,
            {},
            import('@reduxjs/toolkit/query').FetchBaseQueryMeta
          >,
          'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
          void,
          'api',
          unknown
        >;
        shape: import('@reduxjs/toolkit/query').QueryDefinition<
          string,
          import('@reduxjs/toolkit/query').BaseQueryFn<
            string | import('@reduxjs/toolkit/query').FetchArgs,
            unknown,
            import('@reduxjs/toolkit/query').FetchBaseQueryError,
            {},
            import('@reduxjs/toolkit/query').FetchBaseQueryMeta
          >,
          'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
          {
            collection: string;
            count: number;
            fields: {
              path: string;
              steps: (
                | {
                    field: string;
                  }
                | {
                    element: true;
                  }
              )[];
              types: Partial<Record<'number' | 'boolean' | 'object' | 'text' | 'null' | 'array' | 'missing', number>>;
              presence: number;
              top: {
                value: import('zod').JSONType;
                count: number;
              }[];
              least?: string | number | undefined;
              greatest?: string | number | undefined;
              example?: import('zod').JSONType | undefined;
            }[];
          },
          'api',
          unknown
        >;
        documents: import('@reduxjs/toolkit/query').QueryDefinition<
          {
            collection: string;
            after?: number;
            size?: number;
          },
          import('@reduxjs/toolkit/query').BaseQueryFn<
            string | import('@reduxjs/toolkit/query').FetchArgs,
            unknown,
            import('@reduxjs/toolkit/query').FetchBaseQueryError,
            {},
            import('@reduxjs/toolkit/query').FetchBaseQueryMeta
          >,
          'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
          {
            documents: unknown[];
            hasMore: boolean;
            last: number | null;
          },
          'api',
          unknown
        >;
        indexes: import('@reduxjs/toolkit/query').QueryDefinition<
          string,
          import('@reduxjs/toolkit/query').BaseQueryFn<
            string | import('@reduxjs/toolkit/query').FetchArgs,
            unknown,
            import('@reduxjs/toolkit/query').FetchBaseQueryError,
            {},
            import('@reduxjs/toolkit/query').FetchBaseQueryMeta
          >,
          'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
          {
            name: string;
            keys: string[];
            kind: 'ordered';
            unique: boolean;
            where: string | null;
            entries: number;
            bytes: number;
            createdAt: string | null;
            buildMs: number | null;
          }[],
          'api',
          unknown
        >;
        createIndex: import('@reduxjs/toolkit/query').MutationDefinition<
          {
            collection: string;
          } & {
            keys: string[];
            name?: string | undefined;
            kind?: 'ordered' | undefined;
            unique?: boolean | undefined;
            where?: string | undefined;
          },
          import('@reduxjs/toolkit/query').BaseQueryFn<
            string | import('@reduxjs/toolkit/query').FetchArgs,
            unknown,
            import('@reduxjs/toolkit/query').FetchBaseQueryError,
            {},
            import('@reduxjs/toolkit/query').FetchBaseQueryMeta
          >,
          'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
          {
            name: string;
            keys: string[];
            kind: 'ordered';
            unique: boolean;
            where: string | null;
            entries: number;
            bytes: number;
            createdAt: string | null;
            buildMs: number | null;
          },
          'api',
          unknown
        >;
        dropIndex: import('@reduxjs/toolkit/query').MutationDefinition<
          {
            collection: string;
            name: string;
          },
          import('@reduxjs/toolkit/query').BaseQueryFn<
            string | import('@reduxjs/toolkit/query').FetchArgs,
            unknown,
            import('@reduxjs/toolkit/query').FetchBaseQueryError,
            {},
            import('@reduxjs/toolkit/query').FetchBaseQueryMeta
          >,
          'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
          void,
          'api',
          unknown
        >;
        plan: import('@reduxjs/toolkit/query').MutationDefinition<
          {
            pipeline: string;
            whatIf?:
              | {
                  keys: string[];
                  name?: string | undefined;
                  kind?: 'ordered' | undefined;
                  unique?: boolean | undefined;
                  where?: string | undefined;
                  collection?: string | undefined;
                }[]
              | undefined;
            parameters?: Record<string, import('zod').JSONType> | undefined;
            throughLine?: number | undefined;
            useIndex?: string | undefined;
            ignoreIndexes?: string[] | undefined;
          },
          import('@reduxjs/toolkit/query').BaseQueryFn<
            string | import('@reduxjs/toolkit/query').FetchArgs,
            unknown,
            import('@reduxjs/toolkit/query').FetchBaseQueryError,
            {},
            import('@reduxjs/toolkit/query').FetchBaseQueryMeta
          >,
          'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
          {
            plan: import('@zesty-sieve/contract').PlanStep;
            weighed: {
              way: string;
              collection: string;
              whatIf: boolean;
              chosen: boolean;
              reason: string;
              lines: number[];
              index?: string | undefined;
              keys?: string[] | undefined;
              documentsRead?: number | undefined;
              indexEntriesRead?: number | undefined;
              cost?: number | undefined;
            }[];
            suggestions: {
              collection: string;
              keys: string[];
              documentsRead: number;
              indexEntriesRead: number;
              insteadOf: number;
              servesOrder: boolean;
              reason: string;
              lines: number[];
            }[];
          },
          'api',
          unknown
        >;
        measure: import('@reduxjs/toolkit/query').MutationDefinition<
          {
            pipeline: string;
            parameters?: Record<string, never>;
            index: string;
            times?: number;
          },
          import('@reduxjs/toolkit/query').BaseQueryFn<
            string | import('@reduxjs/toolkit/query').FetchArgs,
            unknown,
            import('@reduxjs/toolkit/query').FetchBaseQueryError,
            {},
            import('@reduxjs/toolkit/query').FetchBaseQueryMeta
          >,
          'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
          {
            without: {
              documentsRead: number;
              indexEntriesRead: number;
              timesMs: number[];
              medianMs: number;
            };
            with: {
              documentsRead: number;
              indexEntriesRead: number;
              timesMs: number[];
              medianMs: number;
            };
            rowsReturned: number;
            sameSet: boolean;
            sameOrder: boolean;
          },
          'api',
          unknown
        >;
        rows: import('@reduxjs/toolkit/query').QueryDefinition<
          {
            runId: string;
            offset: number;
            size: number;
          },
          import('@reduxjs/toolkit/query').BaseQueryFn<
            string | import('@reduxjs/toolkit/query').FetchArgs,
            unknown,
            import('@reduxjs/toolkit/query').FetchBaseQueryError,
            {},
            import('@reduxjs/toolkit/query').FetchBaseQueryMeta
          >,
          'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
          {
            documents: import('zod').JSONType[];
            hasMore: boolean;
            rowsReturned: number;
          },
          'api',
          unknown
        >;
        pipelines: import('@reduxjs/toolkit/query').QueryDefinition<
          void,
          import('@reduxjs/toolkit/query').BaseQueryFn<
            string | import('@reduxjs/toolkit/query').FetchArgs,
            unknown,
            import('@reduxjs/toolkit/query').FetchBaseQueryError,
            {},
            import('@reduxjs/toolkit/query').FetchBaseQueryMeta
          >,
          'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
          {
            name: string;
            pipeline: string;
            view: boolean;
            parameters: Record<string, import('zod').JSONType> | null;
            guards: {
              timeMs?: number | undefined;
              documentsRead?: number | undefined;
              memoryBytes?: number | undefined;
            } | null;
            note: string | null;
            updatedAt: string;
          }[],
          'api',
          unknown
        >;
      },
      'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
      'api'
    >;
    bench: import('../features/bench/state/benchSlice.ts').BenchState;
  },
  import('redux').UnknownAction,
  import('@reduxjs/toolkit').Tuple<
    [
      import('redux').StoreEnhancer<{
        dispatch: import('redux-thunk').ThunkDispatch<
          {
            api: import('@reduxjs/toolkit/query').CombinedState<
              {
                collections: import('@reduxjs/toolkit/query').QueryDefinition<
                  void,
                  import('@reduxjs/toolkit/query').BaseQueryFn<
                    string | import('@reduxjs/toolkit/query').FetchArgs,
                    unknown,
                    import('@reduxjs/toolkit/query').FetchBaseQueryError,
                    {},
                    import('@reduxjs/toolkit/query').FetchBaseQueryMeta
                  >,
                  'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
                  {
                    name: string;
                    identity: string;
                    count: number;
                    bytes: number;
                  }[],
                  'api',
                  unknown
                >;
                createCollection: import('@reduxjs/toolkit/query').MutationDefinition<
                  {
                    name: string;
                    identity: string;
                  },
                  import('@reduxjs/toolkit/query').BaseQueryFn<
                    string | import('@reduxjs/toolkit/query').FetchArgs,
                    unknown,
                    import('@reduxjs/toolkit/query').FetchBaseQueryError,
                    {},
                    import('@reduxjs/toolkit/query').FetchBaseQueryMeta
                  >,
                  'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
                  {
                    name: string;
                    identity: string;
                    count: number;
                    bytes: number;
                  },
                  'api',
                  unknown
                >;
                removeCollection: import('@reduxjs/toolkit/query').MutationDefinition<
                  string,
                  import('@reduxjs/toolkit/query').BaseQueryFn<
                    string | import('@reduxjs/toolkit/query').FetchArgs,
                    unknown,
                    import('@reduxjs/toolkit/query').FetchBaseQueryError,
                    {},
                    import('@reduxjs/toolkit/query').FetchBaseQueryMeta
                  >,
                  'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
                  void,
                  'api',
                  unknown
                >;
                shape: import('@reduxjs/toolkit/query').QueryDefinition<
                  string,
                  import('@reduxjs/toolkit/query').BaseQueryFn<
                    string | import('@reduxjs/toolkit/query').FetchArgs,
                    unknown,
                    import('@reduxjs/toolkit/query').FetchBaseQueryError,
                    {},
                    import('@reduxjs/toolkit/query').FetchBaseQueryMeta
                  >,
                  'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
                  {
                    collection: string;
                    count: number;
                    fields: {
                      path: string;
                      steps: (
                        | {
                            field: string;
                          }
                        | {
                            element: true;
                          }
                      )[];
                      types: Partial<Record<'number' | 'boolean' | 'object' | 'text' | 'null' | 'array' | 'missing', number>>;
                      presence: number;
                      top: {
                        value: import('zod').JSONType;
                        count: number;
                      }[];
                      least?: string | number | undefined;
                      greatest?: string | number | undefined;
                      example?: import('zod').JSONType | undefined;
                    }[];
                  },
                  'api',
                  unknown
                >;
                documents: import('@reduxjs/toolkit/query').QueryDefinition<
                  {
                    collection: string;
                    after?: number;
                    size?: number;
                  },
                  import('@reduxjs/toolkit/query').BaseQueryFn<
                    string | import('@reduxjs/toolkit/query').FetchArgs,
                    unknown,
                    import('@reduxjs/toolkit/query').FetchBaseQueryError,
                    {},
                    import('@reduxjs/toolkit/query').FetchBaseQueryMeta
                  >,
                  'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
                  {
                    documents: unknown[];
                    hasMore: boolean;
                    last: number | null;
                  },
                  'api',
                  unknown
                >;
                indexes: import('@reduxjs/toolkit/query').QueryDefinition<
                  string,
                  import('@reduxjs/toolkit/query').BaseQueryFn<
                    string | import('@reduxjs/toolkit/query').FetchArgs,
                    unknown,
                    import('@reduxjs/toolkit/query').FetchBaseQueryError,
                    {},
                    import('@reduxjs/toolkit/query').FetchBaseQueryMeta
                  >,
                  'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
                  {
                    name: string;
                    keys: string[];
                    kind: 'ordered';
                    unique: boolean;
                    where: string | null;
                    entries: number;
                    bytes: number;
                    createdAt: string | null;
                    buildMs: number | null;
                  }[],
                  'api',
                  unknown
                >;
                createIndex: import('@reduxjs/toolkit/query').MutationDefinition<
                  {
                    collection: string;
                  } & {
                    keys: string[];
                    name?: string | undefined;
                    kind?: 'ordered' | undefined;
                    unique?: boolean | undefined;
                    where?: string | undefined;
                  },
                  import('@reduxjs/toolkit/query').BaseQueryFn<
                    string | import('@reduxjs/toolkit/query').FetchArgs,
                    unknown,
                    import('@reduxjs/toolkit/query').FetchBaseQueryError,
                    {},
                    import('@reduxjs/toolkit/query').FetchBaseQueryMeta
                  >,
                  'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
                  {
                    name: string;
                    keys: string[];
                    kind: 'ordered';
                    unique: boolean;
                    where: string | null;
                    entries: number;
                    bytes: number;
                    createdAt: string | null;
                    buildMs: number | null;
                  },
                  'api',
                  unknown
                >;
                dropIndex: import('@reduxjs/toolkit/query').MutationDefinition<
                  {
                    collection: string;
                    name: string;
                  },
                  import('@reduxjs/toolkit/query').BaseQueryFn<
                    string | import('@reduxjs/toolkit/query').FetchArgs,
                    unknown,
                    import('@reduxjs/toolkit/query').FetchBaseQueryError,
                    {},
                    import('@reduxjs/toolkit/query').FetchBaseQueryMeta
                  >,
                  'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
                  void,
                  'api',
                  unknown
                >;
                plan: import('@reduxjs/toolkit/query').MutationDefinition<
                  {
                    pipeline: string;
                    whatIf?:
                      | {
                          keys: string[];
                          name?: string | undefined;
                          kind?: 'ordered' | undefined;
                          unique?: boolean | undefined;
                          where?: string | undefined;
                          collection?: string | undefined;
                        }[]
                      | undefined;
                    parameters?: Record<string, import('zod').JSONType> | undefined;
                    throughLine?: number | undefined;
                    useIndex?: string | undefined;
                    ignoreIndexes?: string[] | undefined;
                  },
                  import('@reduxjs/toolkit/query').BaseQueryFn<
                    string | import('@reduxjs/toolkit/query').FetchArgs,
                    unknown,
                    import('@reduxjs/toolkit/query').FetchBaseQueryError,
                    {},
                    import('@reduxjs/toolkit/query').FetchBaseQueryMeta
                  >,
                  'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
                  {
                    plan: import('@zesty-sieve/contract').PlanStep;
                    weighed: {
                      way: string;
                      collection: string;
                      whatIf: boolean;
                      chosen: boolean;
                      reason: string;
                      lines: number[];
                      index?: string | undefined;
                      keys?: string[] | undefined;
                      documentsRead?: number | undefined;
                      indexEntriesRead?: number | undefined;
                      cost?: number | undefined;
                    }[];
                    suggestions: {
                      collection: string;
                      keys: string[];
                      documentsRead: number;
                      indexEntriesRead: number;
                      insteadOf: number;
                      servesOrder: boolean;
                      reason: string;
                      lines: number[];
                    }[];
                  },
                  'api',
                  unknown
                >;
                measure: import('@reduxjs/toolkit/query').MutationDefinition<
                  {
                    pipeline: string;
                    parameters?: Record<string, never>;
                    index: string;
                    times?: number;
                  },
                  import('@reduxjs/toolkit/query').BaseQueryFn<
                    string | import('@reduxjs/toolkit/query').FetchArgs,
                    unknown,
                    import('@reduxjs/toolkit/query').FetchBaseQueryError,
                    {},
                    import('@reduxjs/toolkit/query').FetchBaseQueryMeta
                  >,
                  'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
                  {
                    without: {
                      documentsRead: number;
                      indexEntriesRead: number;
                      timesMs: number[];
                      medianMs: number;
                    };
                    with: {
                      documentsRead: number;
                      indexEntriesRead: number;
                      timesMs: number[];
                      medianMs: number;
                    };
                    rowsReturned: number;
                    sameSet: boolean;
                    sameOrder: boolean;
                  },
                  'api',
                  unknown
                >;
                rows: import('@reduxjs/toolkit/query').QueryDefinition<
                  {
                    runId: string;
                    offset: number;
                    size: number;
                  },
                  import('@reduxjs/toolkit/query').BaseQueryFn<
                    string | import('@reduxjs/toolkit/query').FetchArgs,
                    unknown,
                    import('@reduxjs/toolkit/query').FetchBaseQueryError,
                    {},
                    import('@reduxjs/toolkit/query').FetchBaseQueryMeta
                  >,
                  'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
                  {
                    documents: import('zod').JSONType[];
                    hasMore: boolean;
                    rowsReturned: number;
                  },
                  'api',
                  unknown
                >;
                pipelines: import('@reduxjs/toolkit/query').QueryDefinition<
                  void,
                  import('@reduxjs/toolkit/query').BaseQueryFn<
                    string | import('@reduxjs/toolkit/query').FetchArgs,
                    unknown,
                    import('@reduxjs/toolkit/query').FetchBaseQueryError,
                    {},
                    import('@reduxjs/toolkit/query').FetchBaseQueryMeta
                  >,
                  'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
                  {
                    name: string;
                    pipeline: string;
                    view: boolean;
                    parameters: Record<string, import('zod').JSONType> | null;
                    guards: {
                      timeMs?: number | undefined;
                      documentsRead?: number | undefined;
                      memoryBytes?: number | undefined;
                    } | null;
                    note: string | null;
                    updatedAt: string;
                  }[],
                  'api',
                  unknown
                >;
              },
              'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
              'api'
            >;
            bench: import('../features/bench/state/benchSlice.ts').BenchState;
          },
          undefined,
          import('redux').UnknownAction
        >;
      }>,
      import('redux').StoreEnhancer,
    ]
  >
>;
export type RootState = ReturnType<typeof store.getState>;
export declare const useAppDispatch: import('react-redux').UseDispatch<
  import('redux-thunk').ThunkDispatch<
    {
      api: import('@reduxjs/toolkit/query').CombinedState<
        {
          collections: import('@reduxjs/toolkit/query').QueryDefinition<
            void,
            import('@reduxjs/toolkit/query').BaseQueryFn<
              string | import('@reduxjs/toolkit/query').FetchArgs,
              unknown,
              import('@reduxjs/toolkit/query').FetchBaseQueryError,
              {},
              import('@reduxjs/toolkit/query').FetchBaseQueryMeta
            >,
            'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
            {
              name: string;
              identity: string;
              count: number;
              bytes: number;
            }[],
            'api',
            unknown
          >;
          createCollection: import('@reduxjs/toolkit/query').MutationDefinition<
            {
              name: string;
              identity: string;
            },
            import('@reduxjs/toolkit/query').BaseQueryFn<
              string | import('@reduxjs/toolkit/query').FetchArgs,
              unknown,
              import('@reduxjs/toolkit/query').FetchBaseQueryError,
              {},
              import('@reduxjs/toolkit/query').FetchBaseQueryMeta
            >,
            'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
            {
              name: string;
              identity: string;
              count: number;
              bytes: number;
            },
            'api',
            unknown
          >;
          removeCollection: import('@reduxjs/toolkit/query').MutationDefinition<
            string,
            import('@reduxjs/toolkit/query').BaseQueryFn<
              string | import('@reduxjs/toolkit/query').FetchArgs,
              unknown,
              import('@reduxjs/toolkit/query').FetchBaseQueryError,
              {},
              import('@reduxjs/toolkit/query').FetchBaseQueryMeta
            >,
            'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
            void,
            'api',
            unknown
          >;
          shape: import('@reduxjs/toolkit/query').QueryDefinition<
            string,
            import('@reduxjs/toolkit/query').BaseQueryFn<
              string | import('@reduxjs/toolkit/query').FetchArgs,
              unknown,
              import('@reduxjs/toolkit/query').FetchBaseQueryError,
              {},
              import('@reduxjs/toolkit/query').FetchBaseQueryMeta
            >,
            'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
            {
              collection: string;
              count: number;
              fields: {
                path: string;
                steps: (
                  | {
                      field: string;
                    }
                  | {
                      element: true;
                    }
                )[];
                types: Partial<Record<'number' | 'boolean' | 'object' | 'text' | 'null' | 'array' | 'missing', number>>;
                presence: number;
                top: {
                  value: import('zod').JSONType;
                  count: number;
                }[];
                least?: string | number | undefined;
                greatest?: string | number | undefined;
                example?: import('zod').JSONType | undefined;
              }[];
            },
            'api',
            unknown
          >;
          documents: import('@reduxjs/toolkit/query').QueryDefinition<
            {
              collection: string;
              after?: number;
              size?: number;
            },
            import('@reduxjs/toolkit/query').BaseQueryFn<
              string | import('@reduxjs/toolkit/query').FetchArgs,
              unknown,
              import('@reduxjs/toolkit/query').FetchBaseQueryError,
              {},
              import('@reduxjs/toolkit/query').FetchBaseQueryMeta
            >,
            'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
            {
              documents: unknown[];
              hasMore: boolean;
              last: number | null;
            },
            'api',
            unknown
          >;
          indexes: import('@reduxjs/toolkit/query').QueryDefinition<
            string,
            import('@reduxjs/toolkit/query').BaseQueryFn<
              string | import('@reduxjs/toolkit/query').FetchArgs,
              unknown,
              import('@reduxjs/toolkit/query').FetchBaseQueryError,
              {},
              import('@reduxjs/toolkit/query').FetchBaseQueryMeta
            >,
            'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
            {
              name: string;
              keys: string[];
              kind: 'ordered';
              unique: boolean;
              where: string | null;
              entries: number;
              bytes: number;
              createdAt: string | null;
              buildMs: number | null;
            }[],
            'api',
            unknown
          >;
          createIndex: import('@reduxjs/toolkit/query').MutationDefinition<
            {
              collection: string;
            } & {
              keys: string[];
              name?: string | undefined;
              kind?: 'ordered' | undefined;
              unique?: boolean | undefined;
              where?: string | undefined;
            },
            import('@reduxjs/toolkit/query').BaseQueryFn<
              string | import('@reduxjs/toolkit/query').FetchArgs,
              unknown,
              import('@reduxjs/toolkit/query').FetchBaseQueryError,
              {},
              import('@reduxjs/toolkit/query').FetchBaseQueryMeta
            >,
            'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
            {
              name: string;
              keys: string[];
              kind: 'ordered';
              unique: boolean;
              where: string | null;
              entries: number;
              bytes: number;
              createdAt: string | null;
              buildMs: number | null;
            },
            'api',
            unknown
          >;
          dropIndex: import('@reduxjs/toolkit/query').MutationDefinition<
            {
              collection: string;
              name: string;
            },
            import('@reduxjs/toolkit/query').BaseQueryFn<
              string | import('@reduxjs/toolkit/query').FetchArgs,
              unknown,
              import('@reduxjs/toolkit/query').FetchBaseQueryError,
              {},
              import('@reduxjs/toolkit/query').FetchBaseQueryMeta
            >,
            'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
            void,
            'api',
            unknown
          >;
          plan: import('@reduxjs/toolkit/query').MutationDefinition<
            {
              pipeline: string;
              whatIf?:
                | {
                    keys: string[];
                    name?: string | undefined;
                    kind?: 'ordered' | undefined;
                    unique?: boolean | undefined;
                    where?: string | undefined;
                    collection?: string | undefined;
                  }[]
                | undefined;
              parameters?: Record<string, import('zod').JSONType> | undefined;
              throughLine?: number | undefined;
              useIndex?: string | undefined;
              ignoreIndexes?: string[] | undefined;
            },
            import('@reduxjs/toolkit/query').BaseQueryFn<
              string | import('@reduxjs/toolkit/query').FetchArgs,
              unknown,
              import('@reduxjs/toolkit/query').FetchBaseQueryError,
              {},
              import('@reduxjs/toolkit/query').FetchBaseQueryMeta
            >,
            'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
            {
              plan: import('@zesty-sieve/contract').PlanStep;
              weighed: {
                way: string;
                collection: string;
                whatIf: boolean;
                chosen: boolean;
                reason: string;
                lines: number[];
                index?: string | undefined;
                keys?: string[] | undefined;
                documentsRead?: number | undefined;
                indexEntriesRead?: number | undefined;
                cost?: number | undefined;
              }[];
              suggestions: {
                collection: string;
                keys: string[];
                documentsRead: number;
                indexEntriesRead: number;
                insteadOf: number;
                servesOrder: boolean;
                reason: string;
                lines: number[];
              }[];
            },
            'api',
            unknown
          >;
          measure: import('@reduxjs/toolkit/query').MutationDefinition<
            {
              pipeline: string;
              parameters?: Record<string, never>;
              index: string;
              times?: number;
            },
            import('@reduxjs/toolkit/query').BaseQueryFn<
              string | import('@reduxjs/toolkit/query').FetchArgs,
              unknown,
              import('@reduxjs/toolkit/query').FetchBaseQueryError,
              {},
              import('@reduxjs/toolkit/query').FetchBaseQueryMeta
            >,
            'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
            {
              without: {
                documentsRead: number;
                indexEntriesRead: number;
                timesMs: number[];
                medianMs: number;
              };
              with: {
                documentsRead: number;
                indexEntriesRead: number;
                timesMs: number[];
                medianMs: number;
              };
              rowsReturned: number;
              sameSet: boolean;
              sameOrder: boolean;
            },
            'api',
            unknown
          >;
          rows: import('@reduxjs/toolkit/query').QueryDefinition<
            {
              runId: string;
              offset: number;
              size: number;
            },
            import('@reduxjs/toolkit/query').BaseQueryFn<
              string | import('@reduxjs/toolkit/query').FetchArgs,
              unknown,
              import('@reduxjs/toolkit/query').FetchBaseQueryError,
              {},
              import('@reduxjs/toolkit/query').FetchBaseQueryMeta
            >,
            'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
            {
              documents: import('zod').JSONType[];
              hasMore: boolean;
              rowsReturned: number;
            },
            'api',
            unknown
          >;
          pipelines: import('@reduxjs/toolkit/query').QueryDefinition<
            void,
            import('@reduxjs/toolkit/query').BaseQueryFn<
              string | import('@reduxjs/toolkit/query').FetchArgs,
              unknown,
              import('@reduxjs/toolkit/query').FetchBaseQueryError,
              {},
              import('@reduxjs/toolkit/query').FetchBaseQueryMeta
            >,
            'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
            {
              name: string;
              pipeline: string;
              view: boolean;
              parameters: Record<string, import('zod').JSONType> | null;
              guards: {
                timeMs?: number | undefined;
                documentsRead?: number | undefined;
                memoryBytes?: number | undefined;
              } | null;
              note: string | null;
              updatedAt: string;
            }[],
            'api',
            unknown
          >;
        },
        'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
        'api'
      >;
      bench: import('../features/bench/state/benchSlice.ts').BenchState;
    },
    undefined,
    import('redux').UnknownAction
  > &
    import('redux').Dispatch<import('redux').UnknownAction>
>;
export declare const useAppSelector: import('react-redux').UseSelector<{
  api: import('@reduxjs/toolkit/query').CombinedState<
    {
      collections: import('@reduxjs/toolkit/query').QueryDefinition<
        void,
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          import('@reduxjs/toolkit/query').FetchBaseQueryError,
          {},
          import('@reduxjs/toolkit/query').FetchBaseQueryMeta
        >,
        'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
        {
          name: string;
          identity: string;
          count: number;
          bytes: number;
        }[],
        'api',
        unknown
      >;
      createCollection: import('@reduxjs/toolkit/query').MutationDefinition<
        {
          name: string;
          identity: string;
        },
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          import('@reduxjs/toolkit/query').FetchBaseQueryError,
          {},
          import('@reduxjs/toolkit/query').FetchBaseQueryMeta
        >,
        'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
        {
          name: string;
          identity: string;
          count: number;
          bytes: number;
        },
        'api',
        unknown
      >;
      removeCollection: import('@reduxjs/toolkit/query').MutationDefinition<
        string,
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          import('@reduxjs/toolkit/query').FetchBaseQueryError,
          {},
          import('@reduxjs/toolkit/query').FetchBaseQueryMeta
        >,
        'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
        void,
        'api',
        unknown
      >;
      shape: import('@reduxjs/toolkit/query').QueryDefinition<
        string,
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          import('@reduxjs/toolkit/query').FetchBaseQueryError,
          {},
          import('@reduxjs/toolkit/query').FetchBaseQueryMeta
        >,
        'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
        {
          collection: string;
          count: number;
          fields: {
            path: string;
            steps: (
              | {
                  field: string;
                }
              | {
                  element: true;
                }
            )[];
            types: Partial<Record<'number' | 'boolean' | 'object' | 'text' | 'null' | 'array' | 'missing', number>>;
            presence: number;
            top: {
              value: import('zod').JSONType;
              count: number;
            }[];
            least?: string | number | undefined;
            greatest?: string | number | undefined;
            example?: import('zod').JSONType | undefined;
          }[];
        },
        'api',
        unknown
      >;
      documents: import('@reduxjs/toolkit/query').QueryDefinition<
        {
          collection: string;
          after?: number;
          size?: number;
        },
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          import('@reduxjs/toolkit/query').FetchBaseQueryError,
          {},
          import('@reduxjs/toolkit/query').FetchBaseQueryMeta
        >,
        'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
        {
          documents: unknown[];
          hasMore: boolean;
          last: number | null;
        },
        'api',
        unknown
      >;
      indexes: import('@reduxjs/toolkit/query').QueryDefinition<
        string,
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          import('@reduxjs/toolkit/query').FetchBaseQueryError,
          {},
          import('@reduxjs/toolkit/query').FetchBaseQueryMeta
        >,
        'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
        {
          name: string;
          keys: string[];
          kind: 'ordered';
          unique: boolean;
          where: string | null;
          entries: number;
          bytes: number;
          createdAt: string | null;
          buildMs: number | null;
        }[],
        'api',
        unknown
      >;
      createIndex: import('@reduxjs/toolkit/query').MutationDefinition<
        {
          collection: string;
        } & {
          keys: string[];
          name?: string | undefined;
          kind?: 'ordered' | undefined;
          unique?: boolean | undefined;
          where?: string | undefined;
        },
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          import('@reduxjs/toolkit/query').FetchBaseQueryError,
          {},
          import('@reduxjs/toolkit/query').FetchBaseQueryMeta
        >,
        'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
        {
          name: string;
          keys: string[];
          kind: 'ordered';
          unique: boolean;
          where: string | null;
          entries: number;
          bytes: number;
          createdAt: string | null;
          buildMs: number | null;
        },
        'api',
        unknown
      >;
      dropIndex: import('@reduxjs/toolkit/query').MutationDefinition<
        {
          collection: string;
          name: string;
        },
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          import('@reduxjs/toolkit/query').FetchBaseQueryError,
          {},
          import('@reduxjs/toolkit/query').FetchBaseQueryMeta
        >,
        'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
        void,
        'api',
        unknown
      >;
      plan: import('@reduxjs/toolkit/query').MutationDefinition<
        {
          pipeline: string;
          whatIf?:
            | {
                keys: string[];
                name?: string | undefined;
                kind?: 'ordered' | undefined;
                unique?: boolean | undefined;
                where?: string | undefined;
                collection?: string | undefined;
              }[]
            | undefined;
          parameters?: Record<string, import('zod').JSONType> | undefined;
          throughLine?: number | undefined;
          useIndex?: string | undefined;
          ignoreIndexes?: string[] | undefined;
        },
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          import('@reduxjs/toolkit/query').FetchBaseQueryError,
          {},
          import('@reduxjs/toolkit/query').FetchBaseQueryMeta
        >,
        'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
        {
          plan: import('@zesty-sieve/contract').PlanStep;
          weighed: {
            way: string;
            collection: string;
            whatIf: boolean;
            chosen: boolean;
            reason: string;
            lines: number[];
            index?: string | undefined;
            keys?: string[] | undefined;
            documentsRead?: number | undefined;
            indexEntriesRead?: number | undefined;
            cost?: number | undefined;
          }[];
          suggestions: {
            collection: string;
            keys: string[];
            documentsRead: number;
            indexEntriesRead: number;
            insteadOf: number;
            servesOrder: boolean;
            reason: string;
            lines: number[];
          }[];
        },
        'api',
        unknown
      >;
      measure: import('@reduxjs/toolkit/query').MutationDefinition<
        {
          pipeline: string;
          parameters?: Record<string, never>;
          index: string;
          times?: number;
        },
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          import('@reduxjs/toolkit/query').FetchBaseQueryError,
          {},
          import('@reduxjs/toolkit/query').FetchBaseQueryMeta
        >,
        'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
        {
          without: {
            documentsRead: number;
            indexEntriesRead: number;
            timesMs: number[];
            medianMs: number;
          };
          with: {
            documentsRead: number;
            indexEntriesRead: number;
            timesMs: number[];
            medianMs: number;
          };
          rowsReturned: number;
          sameSet: boolean;
          sameOrder: boolean;
        },
        'api',
        unknown
      >;
      rows: import('@reduxjs/toolkit/query').QueryDefinition<
        {
          runId: string;
          offset: number;
          size: number;
        },
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          import('@reduxjs/toolkit/query').FetchBaseQueryError,
          {},
          import('@reduxjs/toolkit/query').FetchBaseQueryMeta
        >,
        'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
        {
          documents: import('zod').JSONType[];
          hasMore: boolean;
          rowsReturned: number;
        },
        'api',
        unknown
      >;
      pipelines: import('@reduxjs/toolkit/query').QueryDefinition<
        void,
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          import('@reduxjs/toolkit/query').FetchBaseQueryError,
          {},
          import('@reduxjs/toolkit/query').FetchBaseQueryMeta
        >,
        'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
        {
          name: string;
          pipeline: string;
          view: boolean;
          parameters: Record<string, import('zod').JSONType> | null;
          guards: {
            timeMs?: number | undefined;
            documentsRead?: number | undefined;
            memoryBytes?: number | undefined;
          } | null;
          note: string | null;
          updatedAt: string;
        }[],
        'api',
        unknown
      >;
    },
    'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
    'api'
  >;
  bench: import('../features/bench/state/benchSlice.ts').BenchState;
}>;
