import { fieldTree, type Environment, type FlatField } from '@zesty-sieve/core/language';
import { skipToken } from '@reduxjs/toolkit/query/react';
import { useMemo } from 'react';
import { useCollectionsQuery, useShapeQuery } from '../../../api/api.ts';

/** What the language needs to know of the server's collections, for a pipeline that reads one of them. */
export function useEnvironment(source: string | undefined): Environment {
  const { data: collections } = useCollectionsQuery();
  const known = source !== undefined && collections?.some(({ name }) => name === source);
  const { data: shape } = useShapeQuery(known ? source : skipToken);
  return useMemo(() => {
    const fields: FlatField[] | undefined = shape?.fields.map(({ steps, ...info }) => ({ steps, info }) as FlatField);
    const tree = fields && fieldTree(fields);
    return {
      ...(collections && { collections: collections.map(({ name }) => name) }),
      documentsOf: (name: string) => collections?.find((one) => one.name === name)?.count,
      shapeOf: (name: string) => (name === shape?.collection ? tree : undefined),
    };
  }, [collections, shape]);
}
