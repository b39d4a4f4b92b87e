import {
  collectionsRead,
  fieldTree,
  withViewShapes,
  type Environment,
  type FieldTree,
  type FlatField,
  type Views,
} from '@zesty-sieve/core/language';
import { useEffect, useMemo } from 'react';
import { shapesApi } from '../../api/shapes.ts';
import { shallowEqual } from 'react-redux';
import { useCollectionsQuery } from '../../api/collections.ts';
import { usePipelinesQuery } from '../../api/pipelines.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import type { Shape } from '@zesty-sieve/contract';

/** What the language needs to know of the server's collections and views, for a text that reads some of them. */
export function useEnvironment(text: string): Environment {
  const { data: collections } = useCollectionsQuery();
  const { data: pipelines } = usePipelinesQuery();
  const views = useMemo(
    (): Views =>
      new Map(
        (pipelines ?? []).flatMap(({ name, view, pipeline, parameters }) => (view ? [[name, { pipeline, parameters }] as const] : [])),
      ),
    [pipelines],
  );
  const known = useMemo(() => new Set(collections?.map(({ name }) => name)), [collections]);
  const read = useMemo(() => collectionsRead(text, views).filter((name) => known.has(name)), [text, views, known]);
  const shapes = useShapes(read);
  return useMemo(() => {
    const trees = new Map<string, FieldTree>();
    for (const { collection, fields } of shapes) trees.set(collection, treeOf(fields));
    return {
      ...(collections && { collections: [...collections.map(({ name }) => name), ...views.keys()] }),
      documentsOf: (name: string) => collections?.find((one) => one.name === name)?.count,
      shapeOf: withViewShapes((name) => trees.get(name), views),
    };
  }, [collections, views, shapes]);
}

const none: readonly Shape[] = [];

/** The shapes of several collections, each fetched once and again when its documents change. */
function useShapes(names: readonly string[]): readonly Shape[] {
  const dispatch = useAppDispatch();
  const key = [...names].sort().join('\n');
  useEffect(() => {
    const asked = key === '' ? [] : key.split('\n').map((name) => dispatch(shapesApi.endpoints.shape.initiate(name)));
    return () => asked.forEach((one) => one.unsubscribe());
  }, [key, dispatch]);
  return useAppSelector(
    (state) => (key === '' ? none : key.split('\n').flatMap((name) => shapesApi.endpoints.shape.select(name)(state).data ?? [])),
    shallowEqual,
  );
}

function treeOf(fields: Shape['fields']): FieldTree {
  return fieldTree(fields.map(({ steps, ...info }) => ({ steps, info }) as FlatField));
}
