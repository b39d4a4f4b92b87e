import { type FetchBaseQueryError } from '@reduxjs/toolkit/query/react';
/** The server's API. What a change touches is fetched again by tag. */
export declare const api: import('@reduxjs/toolkit/query').Api<
  import('@reduxjs/toolkit/query').BaseQueryFn<
    string | import('@reduxjs/toolkit/query').FetchArgs,
    unknown,
    FetchBaseQueryError,
    {},
    import('@reduxjs/toolkit/query').FetchBaseQueryMeta
  >,
  {
    collections: import('@reduxjs/toolkit/query').QueryDefinition<
      void,
      import('@reduxjs/toolkit/query').BaseQueryFn<
        string | import('@reduxjs/toolkit/query').FetchArgs,
        unknown,
        FetchBaseQueryError,
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
        FetchBaseQueryError,
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
        FetchBaseQueryError,
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
        FetchBaseQueryError,
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
        FetchBaseQueryError,
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
        FetchBaseQueryError,
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
        FetchBaseQueryError,
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
        FetchBaseQueryError,
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
        FetchBaseQueryError,
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
        FetchBaseQueryError,
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
        FetchBaseQueryError,
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
        FetchBaseQueryError,
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
  'api',
  'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
  typeof import('@reduxjs/toolkit/query').coreModuleName | typeof import('@reduxjs/toolkit/query/react').reactHooksModuleName
>;
export declare const useCollectionsQuery: <
    R extends Record<string, any> = import('@reduxjs/toolkit/query/react').UseQueryStateDefaultResult<
      import('@reduxjs/toolkit/query').QueryDefinition<
        void,
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          FetchBaseQueryError,
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
      >
    >,
  >(
    arg: void | typeof import('@reduxjs/toolkit/query').skipToken,
    options?:
      | (import('@reduxjs/toolkit/query').SubscriptionOptions & {
          skip?: boolean;
          refetchOnMountOrArgChange?: boolean | number;
        } & {
          skip?: boolean;
          selectFromResult?:
            | ((
                state: import('@reduxjs/toolkit/query/react').UseQueryStateDefaultResult<
                  import('@reduxjs/toolkit/query').QueryDefinition<
                    void,
                    import('@reduxjs/toolkit/query').BaseQueryFn<
                      string | import('@reduxjs/toolkit/query').FetchArgs,
                      unknown,
                      FetchBaseQueryError,
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
                  >
                >,
              ) => R)
            | undefined;
        })
      | undefined,
  ) => R & {
    refetch: () => import('@reduxjs/toolkit/query').QueryActionCreatorResult<
      import('@reduxjs/toolkit/query').QueryDefinition<
        void,
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          FetchBaseQueryError,
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
      >
    >;
  },
  useCreateCollectionMutation: <
    R extends Record<string, any> =
      | ({
          requestId?: undefined;
          status: import('@reduxjs/toolkit/query').QueryStatus.uninitialized;
          data?: undefined;
          error?: undefined;
          endpointName?: string;
          startedTimeStamp?: undefined;
          fulfilledTimeStamp?: undefined;
        } & {
          status: import('@reduxjs/toolkit/query').QueryStatus.uninitialized;
          isUninitialized: true;
          isLoading: false;
          isSuccess: false;
          isError: false;
        })
      | ({
          status: import('@reduxjs/toolkit/query').QueryStatus.fulfilled;
        } & Omit<
          {
            requestId: string;
            data?:
              | {
                  name: string;
                  identity: string;
                  count: number;
                  bytes: number;
                }
              | undefined;
            error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
            endpointName: string;
            startedTimeStamp: number;
            fulfilledTimeStamp?: number;
          },
          'data' | 'fulfilledTimeStamp'
        > &
          Required<
            Pick<
              {
                requestId: string;
                data?:
                  | {
                      name: string;
                      identity: string;
                      count: number;
                      bytes: number;
                    }
                  | undefined;
                error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                endpointName: string;
                startedTimeStamp: number;
                fulfilledTimeStamp?: number;
              },
              'data' | 'fulfilledTimeStamp'
            >
          > & {
            error: undefined;
          } & {
            status: import('@reduxjs/toolkit/query').QueryStatus.fulfilled;
            isUninitialized: false;
            isLoading: false;
            isSuccess: true;
            isError: false;
          })
      | ({
          status: import('@reduxjs/toolkit/query').QueryStatus.pending;
        } & {
          requestId: string;
          data?:
            | {
                name: string;
                identity: string;
                count: number;
                bytes: number;
              }
            | undefined;
          error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
          endpointName: string;
          startedTimeStamp: number;
          fulfilledTimeStamp?: number;
        } & {
          data?: undefined;
        } & {
          status: import('@reduxjs/toolkit/query').QueryStatus.pending;
          isUninitialized: false;
          isLoading: true;
          isSuccess: false;
          isError: false;
        })
      | ({
          status: import('@reduxjs/toolkit/query').QueryStatus.rejected;
        } & Omit<
          {
            requestId: string;
            data?:
              | {
                  name: string;
                  identity: string;
                  count: number;
                  bytes: number;
                }
              | undefined;
            error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
            endpointName: string;
            startedTimeStamp: number;
            fulfilledTimeStamp?: number;
          },
          'error'
        > &
          Required<
            Pick<
              {
                requestId: string;
                data?:
                  | {
                      name: string;
                      identity: string;
                      count: number;
                      bytes: number;
                    }
                  | undefined;
                error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                endpointName: string;
                startedTimeStamp: number;
                fulfilledTimeStamp?: number;
              },
              'error'
            >
          > & {
            status: import('@reduxjs/toolkit/query').QueryStatus.rejected;
            isUninitialized: false;
            isLoading: false;
            isSuccess: false;
            isError: true;
          }),
  >(
    options?:
      | {
          selectFromResult?:
            | ((
                state:
                  | ({
                      requestId?: undefined;
                      status: import('@reduxjs/toolkit/query').QueryStatus.uninitialized;
                      data?: undefined;
                      error?: undefined;
                      endpointName?: string;
                      startedTimeStamp?: undefined;
                      fulfilledTimeStamp?: undefined;
                    } & {
                      status: import('@reduxjs/toolkit/query').QueryStatus.uninitialized;
                      isUninitialized: true;
                      isLoading: false;
                      isSuccess: false;
                      isError: false;
                    })
                  | ({
                      status: import('@reduxjs/toolkit/query').QueryStatus.fulfilled;
                    } & Omit<
                      {
                        requestId: string;
                        data?:
                          | {
                              name: string;
                              identity: string;
                              count: number;
                              bytes: number;
                            }
                          | undefined;
                        error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                        endpointName: string;
                        startedTimeStamp: number;
                        fulfilledTimeStamp?: number;
                      },
                      'data' | 'fulfilledTimeStamp'
                    > &
                      Required<
                        Pick<
                          {
                            requestId: string;
                            data?:
                              | {
                                  name: string;
                                  identity: string;
                                  count: number;
                                  bytes: number;
                                }
                              | undefined;
                            error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                            endpointName: string;
                            startedTimeStamp: number;
                            fulfilledTimeStamp?: number;
                          },
                          'data' | 'fulfilledTimeStamp'
                        >
                      > & {
                        error: undefined;
                      } & {
                        status: import('@reduxjs/toolkit/query').QueryStatus.fulfilled;
                        isUninitialized: false;
                        isLoading: false;
                        isSuccess: true;
                        isError: false;
                      })
                  | ({
                      status: import('@reduxjs/toolkit/query').QueryStatus.pending;
                    } & {
                      requestId: string;
                      data?:
                        | {
                            name: string;
                            identity: string;
                            count: number;
                            bytes: number;
                          }
                        | undefined;
                      error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                      endpointName: string;
                      startedTimeStamp: number;
                      fulfilledTimeStamp?: number;
                    } & {
                      data?: undefined;
                    } & {
                      status: import('@reduxjs/toolkit/query').QueryStatus.pending;
                      isUninitialized: false;
                      isLoading: true;
                      isSuccess: false;
                      isError: false;
                    })
                  | ({
                      status: import('@reduxjs/toolkit/query').QueryStatus.rejected;
                    } & Omit<
                      {
                        requestId: string;
                        data?:
                          | {
                              name: string;
                              identity: string;
                              count: number;
                              bytes: number;
                            }
                          | undefined;
                        error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                        endpointName: string;
                        startedTimeStamp: number;
                        fulfilledTimeStamp?: number;
                      },
                      'error'
                    > &
                      Required<
                        Pick<
                          {
                            requestId: string;
                            data?:
                              | {
                                  name: string;
                                  identity: string;
                                  count: number;
                                  bytes: number;
                                }
                              | undefined;
                            error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                            endpointName: string;
                            startedTimeStamp: number;
                            fulfilledTimeStamp?: number;
                          },
                          'error'
                        >
                      > & {
                        status: import('@reduxjs/toolkit/query').QueryStatus.rejected;
                        isUninitialized: false;
                        isLoading: false;
                        isSuccess: false;
                        isError: true;
                      }),
              ) => R)
            | undefined;
          fixedCacheKey?: string;
        }
      | undefined,
  ) => readonly [
    (arg: { name: string; identity: string }) => import('@reduxjs/toolkit/query').MutationActionCreatorResult<
      import('@reduxjs/toolkit/query').MutationDefinition<
        {
          name: string;
          identity: string;
        },
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          FetchBaseQueryError,
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
      >
    >,
    R & {
      originalArgs?:
        | {
            name: string;
            identity: string;
          }
        | undefined;
      reset: () => void;
    },
  ],
  useRemoveCollectionMutation: <
    R extends Record<string, any> =
      | ({
          requestId?: undefined;
          status: import('@reduxjs/toolkit/query').QueryStatus.uninitialized;
          data?: undefined;
          error?: undefined;
          endpointName?: string;
          startedTimeStamp?: undefined;
          fulfilledTimeStamp?: undefined;
        } & {
          status: import('@reduxjs/toolkit/query').QueryStatus.uninitialized;
          isUninitialized: true;
          isLoading: false;
          isSuccess: false;
          isError: false;
        })
      | ({
          status: import('@reduxjs/toolkit/query').QueryStatus.fulfilled;
        } & Omit<
          {
            requestId: string;
            data?: void | undefined;
            error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
            endpointName: string;
            startedTimeStamp: number;
            fulfilledTimeStamp?: number;
          },
          'data' | 'fulfilledTimeStamp'
        > &
          Required<
            Pick<
              {
                requestId: string;
                data?: void | undefined;
                error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                endpointName: string;
                startedTimeStamp: number;
                fulfilledTimeStamp?: number;
              },
              'data' | 'fulfilledTimeStamp'
            >
          > & {
            error: undefined;
          } & {
            status: import('@reduxjs/toolkit/query').QueryStatus.fulfilled;
            isUninitialized: false;
            isLoading: false;
            isSuccess: true;
            isError: false;
          })
      | ({
          status: import('@reduxjs/toolkit/query').QueryStatus.pending;
        } & {
          requestId: string;
          data?: void | undefined;
          error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
          endpointName: string;
          startedTimeStamp: number;
          fulfilledTimeStamp?: number;
        } & {
          data?: undefined;
        } & {
          status: import('@reduxjs/toolkit/query').QueryStatus.pending;
          isUninitialized: false;
          isLoading: true;
          isSuccess: false;
          isError: false;
        })
      | ({
          status: import('@reduxjs/toolkit/query').QueryStatus.rejected;
        } & Omit<
          {
            requestId: string;
            data?: void | undefined;
            error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
            endpointName: string;
            startedTimeStamp: number;
            fulfilledTimeStamp?: number;
          },
          'error'
        > &
          Required<
            Pick<
              {
                requestId: string;
                data?: void | undefined;
                error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                endpointName: string;
                startedTimeStamp: number;
                fulfilledTimeStamp?: number;
              },
              'error'
            >
          > & {
            status: import('@reduxjs/toolkit/query').QueryStatus.rejected;
            isUninitialized: false;
            isLoading: false;
            isSuccess: false;
            isError: true;
          }),
  >(
    options?:
      | {
          selectFromResult?:
            | ((
                state:
                  | ({
                      requestId?: undefined;
                      status: import('@reduxjs/toolkit/query').QueryStatus.uninitialized;
                      data?: undefined;
                      error?: undefined;
                      endpointName?: string;
                      startedTimeStamp?: undefined;
                      fulfilledTimeStamp?: undefined;
                    } & {
                      status: import('@reduxjs/toolkit/query').QueryStatus.uninitialized;
                      isUninitialized: true;
                      isLoading: false;
                      isSuccess: false;
                      isError: false;
                    })
                  | ({
                      status: import('@reduxjs/toolkit/query').QueryStatus.fulfilled;
                    } & Omit<
                      {
                        requestId: string;
                        data?: void | undefined;
                        error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                        endpointName: string;
                        startedTimeStamp: number;
                        fulfilledTimeStamp?: number;
                      },
                      'data' | 'fulfilledTimeStamp'
                    > &
                      Required<
                        Pick<
                          {
                            requestId: string;
                            data?: void | undefined;
                            error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                            endpointName: string;
                            startedTimeStamp: number;
                            fulfilledTimeStamp?: number;
                          },
                          'data' | 'fulfilledTimeStamp'
                        >
                      > & {
                        error: undefined;
                      } & {
                        status: import('@reduxjs/toolkit/query').QueryStatus.fulfilled;
                        isUninitialized: false;
                        isLoading: false;
                        isSuccess: true;
                        isError: false;
                      })
                  | ({
                      status: import('@reduxjs/toolkit/query').QueryStatus.pending;
                    } & {
                      requestId: string;
                      data?: void | undefined;
                      error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                      endpointName: string;
                      startedTimeStamp: number;
                      fulfilledTimeStamp?: number;
                    } & {
                      data?: undefined;
                    } & {
                      status: import('@reduxjs/toolkit/query').QueryStatus.pending;
                      isUninitialized: false;
                      isLoading: true;
                      isSuccess: false;
                      isError: false;
                    })
                  | ({
                      status: import('@reduxjs/toolkit/query').QueryStatus.rejected;
                    } & Omit<
                      {
                        requestId: string;
                        data?: void | undefined;
                        error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                        endpointName: string;
                        startedTimeStamp: number;
                        fulfilledTimeStamp?: number;
                      },
                      'error'
                    > &
                      Required<
                        Pick<
                          {
                            requestId: string;
                            data?: void | undefined;
                            error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                            endpointName: string;
                            startedTimeStamp: number;
                            fulfilledTimeStamp?: number;
                          },
                          'error'
                        >
                      > & {
                        status: import('@reduxjs/toolkit/query').QueryStatus.rejected;
                        isUninitialized: false;
                        isLoading: false;
                        isSuccess: false;
                        isError: true;
                      }),
              ) => R)
            | undefined;
          fixedCacheKey?: string;
        }
      | undefined,
  ) => readonly [
    (
      arg: string,
    ) => import('@reduxjs/toolkit/query').MutationActionCreatorResult<
      import('@reduxjs/toolkit/query').MutationDefinition<
        string,
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          FetchBaseQueryError,
          {},
          import('@reduxjs/toolkit/query').FetchBaseQueryMeta
        >,
        'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
        void,
        'api',
        unknown
      >
    >,
    R & {
      originalArgs?: string | undefined;
      reset: () => void;
    },
  ],
  useShapeQuery: <
    R extends Record<string, any> = import('@reduxjs/toolkit/query/react').UseQueryStateDefaultResult<
      import('@reduxjs/toolkit/query').QueryDefinition<
        string,
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          FetchBaseQueryError,
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
      >
    >,
  >(
    arg: string | typeof import('@reduxjs/toolkit/query').skipToken,
    options?:
      | (import('@reduxjs/toolkit/query').SubscriptionOptions & {
          skip?: boolean;
          refetchOnMountOrArgChange?: boolean | number;
        } & {
          skip?: boolean;
          selectFromResult?:
            | ((
                state: import('@reduxjs/toolkit/query/react').UseQueryStateDefaultResult<
                  import('@reduxjs/toolkit/query').QueryDefinition<
                    string,
                    import('@reduxjs/toolkit/query').BaseQueryFn<
                      string | import('@reduxjs/toolkit/query').FetchArgs,
                      unknown,
                      FetchBaseQueryError,
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
                  >
                >,
              ) => R)
            | undefined;
        })
      | undefined,
  ) => R & {
    refetch: () => import('@reduxjs/toolkit/query').QueryActionCreatorResult<
      import('@reduxjs/toolkit/query').QueryDefinition<
        string,
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          FetchBaseQueryError,
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
      >
    >;
  },
  useDocumentsQuery: <
    R extends Record<string, any> = import('@reduxjs/toolkit/query/react').UseQueryStateDefaultResult<
      import('@reduxjs/toolkit/query').QueryDefinition<
        {
          collection: string;
          after?: number;
          size?: number;
        },
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          FetchBaseQueryError,
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
      >
    >,
  >(
    arg:
      | {
          collection: string;
          after?: number;
          size?: number;
        }
      | typeof import('@reduxjs/toolkit/query').skipToken,
    options?:
      | (import('@reduxjs/toolkit/query').SubscriptionOptions & {
          skip?: boolean;
          refetchOnMountOrArgChange?: boolean | number;
        } & {
          skip?: boolean;
          selectFromResult?:
            | ((
                state: import('@reduxjs/toolkit/query/react').UseQueryStateDefaultResult<
                  import('@reduxjs/toolkit/query').QueryDefinition<
                    {
                      collection: string;
                      after?: number;
                      size?: number;
                    },
                    import('@reduxjs/toolkit/query').BaseQueryFn<
                      string | import('@reduxjs/toolkit/query').FetchArgs,
                      unknown,
                      FetchBaseQueryError,
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
                  >
                >,
              ) => R)
            | undefined;
        })
      | undefined,
  ) => R & {
    refetch: () => import('@reduxjs/toolkit/query').QueryActionCreatorResult<
      import('@reduxjs/toolkit/query').QueryDefinition<
        {
          collection: string;
          after?: number;
          size?: number;
        },
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          FetchBaseQueryError,
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
      >
    >;
  },
  useIndexesQuery: <
    R extends Record<string, any> = import('@reduxjs/toolkit/query/react').UseQueryStateDefaultResult<
      import('@reduxjs/toolkit/query').QueryDefinition<
        string,
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          FetchBaseQueryError,
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
      >
    >,
  >(
    arg: string | typeof import('@reduxjs/toolkit/query').skipToken,
    options?:
      | (import('@reduxjs/toolkit/query').SubscriptionOptions & {
          skip?: boolean;
          refetchOnMountOrArgChange?: boolean | number;
        } & {
          skip?: boolean;
          selectFromResult?:
            | ((
                state: import('@reduxjs/toolkit/query/react').UseQueryStateDefaultResult<
                  import('@reduxjs/toolkit/query').QueryDefinition<
                    string,
                    import('@reduxjs/toolkit/query').BaseQueryFn<
                      string | import('@reduxjs/toolkit/query').FetchArgs,
                      unknown,
                      FetchBaseQueryError,
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
                  >
                >,
              ) => R)
            | undefined;
        })
      | undefined,
  ) => R & {
    refetch: () => import('@reduxjs/toolkit/query').QueryActionCreatorResult<
      import('@reduxjs/toolkit/query').QueryDefinition<
        string,
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          FetchBaseQueryError,
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
      >
    >;
  },
  useCreateIndexMutation: <
    R extends Record<string, any> =
      | ({
          requestId?: undefined;
          status: import('@reduxjs/toolkit/query').QueryStatus.uninitialized;
          data?: undefined;
          error?: undefined;
          endpointName?: string;
          startedTimeStamp?: undefined;
          fulfilledTimeStamp?: undefined;
        } & {
          status: import('@reduxjs/toolkit/query').QueryStatus.uninitialized;
          isUninitialized: true;
          isLoading: false;
          isSuccess: false;
          isError: false;
        })
      | ({
          status: import('@reduxjs/toolkit/query').QueryStatus.fulfilled;
        } & Omit<
          {
            requestId: string;
            data?:
              | {
                  name: string;
                  keys: string[];
                  kind: 'ordered';
                  unique: boolean;
                  where: string | null;
                  entries: number;
                  bytes: number;
                  createdAt: string | null;
                  buildMs: number | null;
                }
              | undefined;
            error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
            endpointName: string;
            startedTimeStamp: number;
            fulfilledTimeStamp?: number;
          },
          'data' | 'fulfilledTimeStamp'
        > &
          Required<
            Pick<
              {
                requestId: string;
                data?:
                  | {
                      name: string;
                      keys: string[];
                      kind: 'ordered';
                      unique: boolean;
                      where: string | null;
                      entries: number;
                      bytes: number;
                      createdAt: string | null;
                      buildMs: number | null;
                    }
                  | undefined;
                error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                endpointName: string;
                startedTimeStamp: number;
                fulfilledTimeStamp?: number;
              },
              'data' | 'fulfilledTimeStamp'
            >
          > & {
            error: undefined;
          } & {
            status: import('@reduxjs/toolkit/query').QueryStatus.fulfilled;
            isUninitialized: false;
            isLoading: false;
            isSuccess: true;
            isError: false;
          })
      | ({
          status: import('@reduxjs/toolkit/query').QueryStatus.pending;
        } & {
          requestId: string;
          data?:
            | {
                name: string;
                keys: string[];
                kind: 'ordered';
                unique: boolean;
                where: string | null;
                entries: number;
                bytes: number;
                createdAt: string | null;
                buildMs: number | null;
              }
            | undefined;
          error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
          endpointName: string;
          startedTimeStamp: number;
          fulfilledTimeStamp?: number;
        } & {
          data?: undefined;
        } & {
          status: import('@reduxjs/toolkit/query').QueryStatus.pending;
          isUninitialized: false;
          isLoading: true;
          isSuccess: false;
          isError: false;
        })
      | ({
          status: import('@reduxjs/toolkit/query').QueryStatus.rejected;
        } & Omit<
          {
            requestId: string;
            data?:
              | {
                  name: string;
                  keys: string[];
                  kind: 'ordered';
                  unique: boolean;
                  where: string | null;
                  entries: number;
                  bytes: number;
                  createdAt: string | null;
                  buildMs: number | null;
                }
              | undefined;
            error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
            endpointName: string;
            startedTimeStamp: number;
            fulfilledTimeStamp?: number;
          },
          'error'
        > &
          Required<
            Pick<
              {
                requestId: string;
                data?:
                  | {
                      name: string;
                      keys: string[];
                      kind: 'ordered';
                      unique: boolean;
                      where: string | null;
                      entries: number;
                      bytes: number;
                      createdAt: string | null;
                      buildMs: number | null;
                    }
                  | undefined;
                error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                endpointName: string;
                startedTimeStamp: number;
                fulfilledTimeStamp?: number;
              },
              'error'
            >
          > & {
            status: import('@reduxjs/toolkit/query').QueryStatus.rejected;
            isUninitialized: false;
            isLoading: false;
            isSuccess: false;
            isError: true;
          }),
  >(
    options?:
      | {
          selectFromResult?:
            | ((
                state:
                  | ({
                      requestId?: undefined;
                      status: import('@reduxjs/toolkit/query').QueryStatus.uninitialized;
                      data?: undefined;
                      error?: undefined;
                      endpointName?: string;
                      startedTimeStamp?: undefined;
                      fulfilledTimeStamp?: undefined;
                    } & {
                      status: import('@reduxjs/toolkit/query').QueryStatus.uninitialized;
                      isUninitialized: true;
                      isLoading: false;
                      isSuccess: false;
                      isError: false;
                    })
                  | ({
                      status: import('@reduxjs/toolkit/query').QueryStatus.fulfilled;
                    } & Omit<
                      {
                        requestId: string;
                        data?:
                          | {
                              name: string;
                              keys: string[];
                              kind: 'ordered';
                              unique: boolean;
                              where: string | null;
                              entries: number;
                              bytes: number;
                              createdAt: string | null;
                              buildMs: number | null;
                            }
                          | undefined;
                        error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                        endpointName: string;
                        startedTimeStamp: number;
                        fulfilledTimeStamp?: number;
                      },
                      'data' | 'fulfilledTimeStamp'
                    > &
                      Required<
                        Pick<
                          {
                            requestId: string;
                            data?:
                              | {
                                  name: string;
                                  keys: string[];
                                  kind: 'ordered';
                                  unique: boolean;
                                  where: string | null;
                                  entries: number;
                                  bytes: number;
                                  createdAt: string | null;
                                  buildMs: number | null;
                                }
                              | undefined;
                            error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                            endpointName: string;
                            startedTimeStamp: number;
                            fulfilledTimeStamp?: number;
                          },
                          'data' | 'fulfilledTimeStamp'
                        >
                      > & {
                        error: undefined;
                      } & {
                        status: import('@reduxjs/toolkit/query').QueryStatus.fulfilled;
                        isUninitialized: false;
                        isLoading: false;
                        isSuccess: true;
                        isError: false;
                      })
                  | ({
                      status: import('@reduxjs/toolkit/query').QueryStatus.pending;
                    } & {
                      requestId: string;
                      data?:
                        | {
                            name: string;
                            keys: string[];
                            kind: 'ordered';
                            unique: boolean;
                            where: string | null;
                            entries: number;
                            bytes: number;
                            createdAt: string | null;
                            buildMs: number | null;
                          }
                        | undefined;
                      error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                      endpointName: string;
                      startedTimeStamp: number;
                      fulfilledTimeStamp?: number;
                    } & {
                      data?: undefined;
                    } & {
                      status: import('@reduxjs/toolkit/query').QueryStatus.pending;
                      isUninitialized: false;
                      isLoading: true;
                      isSuccess: false;
                      isError: false;
                    })
                  | ({
                      status: import('@reduxjs/toolkit/query').QueryStatus.rejected;
                    } & Omit<
                      {
                        requestId: string;
                        data?:
                          | {
                              name: string;
                              keys: string[];
                              kind: 'ordered';
                              unique: boolean;
                              where: string | null;
                              entries: number;
                              bytes: number;
                              createdAt: string | null;
                              buildMs: number | null;
                            }
                          | undefined;
                        error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                        endpointName: string;
                        startedTimeStamp: number;
                        fulfilledTimeStamp?: number;
                      },
                      'error'
                    > &
                      Required<
                        Pick<
                          {
                            requestId: string;
                            data?:
                              | {
                                  name: string;
                                  keys: string[];
                                  kind: 'ordered';
                                  unique: boolean;
                                  where: string | null;
                                  entries: number;
                                  bytes: number;
                                  createdAt: string | null;
                                  buildMs: number | null;
                                }
                              | undefined;
                            error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                            endpointName: string;
                            startedTimeStamp: number;
                            fulfilledTimeStamp?: number;
                          },
                          'error'
                        >
                      > & {
                        status: import('@reduxjs/toolkit/query').QueryStatus.rejected;
                        isUninitialized: false;
                        isLoading: false;
                        isSuccess: false;
                        isError: true;
                      }),
              ) => R)
            | undefined;
          fixedCacheKey?: string;
        }
      | undefined,
  ) => readonly [
    (
      arg: {
        collection: string;
      } & {
        keys: string[];
        name?: string | undefined;
        kind?: 'ordered' | undefined;
        unique?: boolean | undefined;
        where?: string | undefined;
      },
    ) => import('@reduxjs/toolkit/query').MutationActionCreatorResult<
      import('@reduxjs/toolkit/query').MutationDefinition<
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
          FetchBaseQueryError,
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
      >
    >,
    R & {
      originalArgs?:
        | ({
            collection: string;
          } & {
            keys: string[];
            name?: string | undefined;
            kind?: 'ordered' | undefined;
            unique?: boolean | undefined;
            where?: string | undefined;
          })
        | undefined;
      reset: () => void;
    },
  ],
  useDropIndexMutation: <
    R extends Record<string, any> =
      | ({
          requestId?: undefined;
          status: import('@reduxjs/toolkit/query').QueryStatus.uninitialized;
          data?: undefined;
          error?: undefined;
          endpointName?: string;
          startedTimeStamp?: undefined;
          fulfilledTimeStamp?: undefined;
        } & {
          status: import('@reduxjs/toolkit/query').QueryStatus.uninitialized;
          isUninitialized: true;
          isLoading: false;
          isSuccess: false;
          isError: false;
        })
      | ({
          status: import('@reduxjs/toolkit/query').QueryStatus.fulfilled;
        } & Omit<
          {
            requestId: string;
            data?: void | undefined;
            error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
            endpointName: string;
            startedTimeStamp: number;
            fulfilledTimeStamp?: number;
          },
          'data' | 'fulfilledTimeStamp'
        > &
          Required<
            Pick<
              {
                requestId: string;
                data?: void | undefined;
                error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                endpointName: string;
                startedTimeStamp: number;
                fulfilledTimeStamp?: number;
              },
              'data' | 'fulfilledTimeStamp'
            >
          > & {
            error: undefined;
          } & {
            status: import('@reduxjs/toolkit/query').QueryStatus.fulfilled;
            isUninitialized: false;
            isLoading: false;
            isSuccess: true;
            isError: false;
          })
      | ({
          status: import('@reduxjs/toolkit/query').QueryStatus.pending;
        } & {
          requestId: string;
          data?: void | undefined;
          error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
          endpointName: string;
          startedTimeStamp: number;
          fulfilledTimeStamp?: number;
        } & {
          data?: undefined;
        } & {
          status: import('@reduxjs/toolkit/query').QueryStatus.pending;
          isUninitialized: false;
          isLoading: true;
          isSuccess: false;
          isError: false;
        })
      | ({
          status: import('@reduxjs/toolkit/query').QueryStatus.rejected;
        } & Omit<
          {
            requestId: string;
            data?: void | undefined;
            error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
            endpointName: string;
            startedTimeStamp: number;
            fulfilledTimeStamp?: number;
          },
          'error'
        > &
          Required<
            Pick<
              {
                requestId: string;
                data?: void | undefined;
                error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                endpointName: string;
                startedTimeStamp: number;
                fulfilledTimeStamp?: number;
              },
              'error'
            >
          > & {
            status: import('@reduxjs/toolkit/query').QueryStatus.rejected;
            isUninitialized: false;
            isLoading: false;
            isSuccess: false;
            isError: true;
          }),
  >(
    options?:
      | {
          selectFromResult?:
            | ((
                state:
                  | ({
                      requestId?: undefined;
                      status: import('@reduxjs/toolkit/query').QueryStatus.uninitialized;
                      data?: undefined;
                      error?: undefined;
                      endpointName?: string;
                      startedTimeStamp?: undefined;
                      fulfilledTimeStamp?: undefined;
                    } & {
                      status: import('@reduxjs/toolkit/query').QueryStatus.uninitialized;
                      isUninitialized: true;
                      isLoading: false;
                      isSuccess: false;
                      isError: false;
                    })
                  | ({
                      status: import('@reduxjs/toolkit/query').QueryStatus.fulfilled;
                    } & Omit<
                      {
                        requestId: string;
                        data?: void | undefined;
                        error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                        endpointName: string;
                        startedTimeStamp: number;
                        fulfilledTimeStamp?: number;
                      },
                      'data' | 'fulfilledTimeStamp'
                    > &
                      Required<
                        Pick<
                          {
                            requestId: string;
                            data?: void | undefined;
                            error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                            endpointName: string;
                            startedTimeStamp: number;
                            fulfilledTimeStamp?: number;
                          },
                          'data' | 'fulfilledTimeStamp'
                        >
                      > & {
                        error: undefined;
                      } & {
                        status: import('@reduxjs/toolkit/query').QueryStatus.fulfilled;
                        isUninitialized: false;
                        isLoading: false;
                        isSuccess: true;
                        isError: false;
                      })
                  | ({
                      status: import('@reduxjs/toolkit/query').QueryStatus.pending;
                    } & {
                      requestId: string;
                      data?: void | undefined;
                      error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                      endpointName: string;
                      startedTimeStamp: number;
                      fulfilledTimeStamp?: number;
                    } & {
                      data?: undefined;
                    } & {
                      status: import('@reduxjs/toolkit/query').QueryStatus.pending;
                      isUninitialized: false;
                      isLoading: true;
                      isSuccess: false;
                      isError: false;
                    })
                  | ({
                      status: import('@reduxjs/toolkit/query').QueryStatus.rejected;
                    } & Omit<
                      {
                        requestId: string;
                        data?: void | undefined;
                        error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                        endpointName: string;
                        startedTimeStamp: number;
                        fulfilledTimeStamp?: number;
                      },
                      'error'
                    > &
                      Required<
                        Pick<
                          {
                            requestId: string;
                            data?: void | undefined;
                            error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                            endpointName: string;
                            startedTimeStamp: number;
                            fulfilledTimeStamp?: number;
                          },
                          'error'
                        >
                      > & {
                        status: import('@reduxjs/toolkit/query').QueryStatus.rejected;
                        isUninitialized: false;
                        isLoading: false;
                        isSuccess: false;
                        isError: true;
                      }),
              ) => R)
            | undefined;
          fixedCacheKey?: string;
        }
      | undefined,
  ) => readonly [
    (arg: { collection: string; name: string }) => import('@reduxjs/toolkit/query').MutationActionCreatorResult<
      import('@reduxjs/toolkit/query').MutationDefinition<
        {
          collection: string;
          name: string;
        },
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          FetchBaseQueryError,
          {},
          import('@reduxjs/toolkit/query').FetchBaseQueryMeta
        >,
        'Collections' | 'Shape' | 'Documents' | 'Indexes' | 'Pipelines',
        void,
        'api',
        unknown
      >
    >,
    R & {
      originalArgs?:
        | {
            collection: string;
            name: string;
          }
        | undefined;
      reset: () => void;
    },
  ],
  useMeasureMutation: <
    R extends Record<string, any> =
      | ({
          requestId?: undefined;
          status: import('@reduxjs/toolkit/query').QueryStatus.uninitialized;
          data?: undefined;
          error?: undefined;
          endpointName?: string;
          startedTimeStamp?: undefined;
          fulfilledTimeStamp?: undefined;
        } & {
          status: import('@reduxjs/toolkit/query').QueryStatus.uninitialized;
          isUninitialized: true;
          isLoading: false;
          isSuccess: false;
          isError: false;
        })
      | ({
          status: import('@reduxjs/toolkit/query').QueryStatus.fulfilled;
        } & Omit<
          {
            requestId: string;
            data?:
              | {
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
                }
              | undefined;
            error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
            endpointName: string;
            startedTimeStamp: number;
            fulfilledTimeStamp?: number;
          },
          'data' | 'fulfilledTimeStamp'
        > &
          Required<
            Pick<
              {
                requestId: string;
                data?:
                  | {
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
                    }
                  | undefined;
                error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                endpointName: string;
                startedTimeStamp: number;
                fulfilledTimeStamp?: number;
              },
              'data' | 'fulfilledTimeStamp'
            >
          > & {
            error: undefined;
          } & {
            status: import('@reduxjs/toolkit/query').QueryStatus.fulfilled;
            isUninitialized: false;
            isLoading: false;
            isSuccess: true;
            isError: false;
          })
      | ({
          status: import('@reduxjs/toolkit/query').QueryStatus.pending;
        } & {
          requestId: string;
          data?:
            | {
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
              }
            | undefined;
          error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
          endpointName: string;
          startedTimeStamp: number;
          fulfilledTimeStamp?: number;
        } & {
          data?: undefined;
        } & {
          status: import('@reduxjs/toolkit/query').QueryStatus.pending;
          isUninitialized: false;
          isLoading: true;
          isSuccess: false;
          isError: false;
        })
      | ({
          status: import('@reduxjs/toolkit/query').QueryStatus.rejected;
        } & Omit<
          {
            requestId: string;
            data?:
              | {
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
                }
              | undefined;
            error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
            endpointName: string;
            startedTimeStamp: number;
            fulfilledTimeStamp?: number;
          },
          'error'
        > &
          Required<
            Pick<
              {
                requestId: string;
                data?:
                  | {
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
                    }
                  | undefined;
                error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                endpointName: string;
                startedTimeStamp: number;
                fulfilledTimeStamp?: number;
              },
              'error'
            >
          > & {
            status: import('@reduxjs/toolkit/query').QueryStatus.rejected;
            isUninitialized: false;
            isLoading: false;
            isSuccess: false;
            isError: true;
          }),
  >(
    options?:
      | {
          selectFromResult?:
            | ((
                state:
                  | ({
                      requestId?: undefined;
                      status: import('@reduxjs/toolkit/query').QueryStatus.uninitialized;
                      data?: undefined;
                      error?: undefined;
                      endpointName?: string;
                      startedTimeStamp?: undefined;
                      fulfilledTimeStamp?: undefined;
                    } & {
                      status: import('@reduxjs/toolkit/query').QueryStatus.uninitialized;
                      isUninitialized: true;
                      isLoading: false;
                      isSuccess: false;
                      isError: false;
                    })
                  | ({
                      status: import('@reduxjs/toolkit/query').QueryStatus.fulfilled;
                    } & Omit<
                      {
                        requestId: string;
                        data?:
                          | {
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
                            }
                          | undefined;
                        error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                        endpointName: string;
                        startedTimeStamp: number;
                        fulfilledTimeStamp?: number;
                      },
                      'data' | 'fulfilledTimeStamp'
                    > &
                      Required<
                        Pick<
                          {
                            requestId: string;
                            data?:
                              | {
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
                                }
                              | undefined;
                            error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                            endpointName: string;
                            startedTimeStamp: number;
                            fulfilledTimeStamp?: number;
                          },
                          'data' | 'fulfilledTimeStamp'
                        >
                      > & {
                        error: undefined;
                      } & {
                        status: import('@reduxjs/toolkit/query').QueryStatus.fulfilled;
                        isUninitialized: false;
                        isLoading: false;
                        isSuccess: true;
                        isError: false;
                      })
                  | ({
                      status: import('@reduxjs/toolkit/query').QueryStatus.pending;
                    } & {
                      requestId: string;
                      data?:
                        | {
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
                          }
                        | undefined;
                      error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                      endpointName: string;
                      startedTimeStamp: number;
                      fulfilledTimeStamp?: number;
                    } & {
                      data?: undefined;
                    } & {
                      status: import('@reduxjs/toolkit/query').QueryStatus.pending;
                      isUninitialized: false;
                      isLoading: true;
                      isSuccess: false;
                      isError: false;
                    })
                  | ({
                      status: import('@reduxjs/toolkit/query').QueryStatus.rejected;
                    } & Omit<
                      {
                        requestId: string;
                        data?:
                          | {
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
                            }
                          | undefined;
                        error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                        endpointName: string;
                        startedTimeStamp: number;
                        fulfilledTimeStamp?: number;
                      },
                      'error'
                    > &
                      Required<
                        Pick<
                          {
                            requestId: string;
                            data?:
                              | {
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
                                }
                              | undefined;
                            error?: FetchBaseQueryError | import('@reduxjs/toolkit').SerializedError | undefined;
                            endpointName: string;
                            startedTimeStamp: number;
                            fulfilledTimeStamp?: number;
                          },
                          'error'
                        >
                      > & {
                        status: import('@reduxjs/toolkit/query').QueryStatus.rejected;
                        isUninitialized: false;
                        isLoading: false;
                        isSuccess: false;
                        isError: true;
                      }),
              ) => R)
            | undefined;
          fixedCacheKey?: string;
        }
      | undefined,
  ) => readonly [
    (arg: {
      pipeline: string;
      parameters?: Record<string, never>;
      index: string;
      times?: number;
    }) => import('@reduxjs/toolkit/query').MutationActionCreatorResult<
      import('@reduxjs/toolkit/query').MutationDefinition<
        {
          pipeline: string;
          parameters?: Record<string, never>;
          index: string;
          times?: number;
        },
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          FetchBaseQueryError,
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
      >
    >,
    R & {
      originalArgs?:
        | {
            pipeline: string;
            parameters?: Record<string, never>;
            index: string;
            times?: number;
          }
        | undefined;
      reset: () => void;
    },
  ],
  usePipelinesQuery: <
    R extends Record<string, any> = import('@reduxjs/toolkit/query/react').UseQueryStateDefaultResult<
      import('@reduxjs/toolkit/query').QueryDefinition<
        void,
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          FetchBaseQueryError,
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
      >
    >,
  >(
    arg: void | typeof import('@reduxjs/toolkit/query').skipToken,
    options?:
      | (import('@reduxjs/toolkit/query').SubscriptionOptions & {
          skip?: boolean;
          refetchOnMountOrArgChange?: boolean | number;
        } & {
          skip?: boolean;
          selectFromResult?:
            | ((
                state: import('@reduxjs/toolkit/query/react').UseQueryStateDefaultResult<
                  import('@reduxjs/toolkit/query').QueryDefinition<
                    void,
                    import('@reduxjs/toolkit/query').BaseQueryFn<
                      string | import('@reduxjs/toolkit/query').FetchArgs,
                      unknown,
                      FetchBaseQueryError,
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
                  >
                >,
              ) => R)
            | undefined;
        })
      | undefined,
  ) => R & {
    refetch: () => import('@reduxjs/toolkit/query').QueryActionCreatorResult<
      import('@reduxjs/toolkit/query').QueryDefinition<
        void,
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          FetchBaseQueryError,
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
      >
    >;
  },
  useLazyRowsQuery: <
    R extends Record<string, any> = import('@reduxjs/toolkit/query/react').UseQueryStateDefaultResult<
      import('@reduxjs/toolkit/query').QueryDefinition<
        {
          runId: string;
          offset: number;
          size: number;
        },
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          FetchBaseQueryError,
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
      >
    >,
  >(
    options?:
      | (import('@reduxjs/toolkit/query').SubscriptionOptions &
          Omit<
            {
              skip?: boolean;
              selectFromResult?:
                | ((
                    state: import('@reduxjs/toolkit/query/react').UseQueryStateDefaultResult<
                      import('@reduxjs/toolkit/query').QueryDefinition<
                        {
                          runId: string;
                          offset: number;
                          size: number;
                        },
                        import('@reduxjs/toolkit/query').BaseQueryFn<
                          string | import('@reduxjs/toolkit/query').FetchArgs,
                          unknown,
                          FetchBaseQueryError,
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
                      >
                    >,
                  ) => R)
                | undefined;
            },
            'skip'
          >)
      | undefined,
  ) => [
    (
      arg: {
        runId: string;
        offset: number;
        size: number;
      },
      preferCacheValue?: boolean,
    ) => import('@reduxjs/toolkit/query').QueryActionCreatorResult<
      import('@reduxjs/toolkit/query').QueryDefinition<
        {
          runId: string;
          offset: number;
          size: number;
        },
        import('@reduxjs/toolkit/query').BaseQueryFn<
          string | import('@reduxjs/toolkit/query').FetchArgs,
          unknown,
          FetchBaseQueryError,
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
      >
    >,
    R & {
      reset: () => void;
    },
    {
      lastArg: {
        runId: string;
        offset: number;
        size: number;
      };
    },
  ];
/** What a failed call tells, in words. */
export declare function problemText(error: unknown): string;
