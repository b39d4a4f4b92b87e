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
import { api, useCollectionsQuery, usePipelinesQuery } from '../../../api/api.ts';
import { useAppDispatch, useAppSelector } from '../../../app/store.ts';
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

/** The shapes of several collections, each fetched once and again when its documents change. */
function useShapes(names: readonly string[]): readonly Shape[] {
  const dispatch = useAppDispatch();
  const key = [...names].sort().join('\n');
  useEffect(() => {
    const asked = key === '' ? [] : key.split('\n').map((name) => dispatch(api.endpoints.shape.initiate(name)));
    return () => asked.forEach((one) => one.unsubscribe());
  }, [key, dispatch]);
  const queries = useAppSelector((state) => state[api.reducerPath].queries);
  const found = key === '' ? [] : key.split('\n').flatMap((name) => (queries[`shape("${name}")`]?.data as Shape | undefined) ?? []);
  const marks = found.map((shape) => markOf(shape)).join();
  // eslint-disable-next-line react-hooks/exhaustive-deps -- the same shapes are the same list
  return useMemo(() => found, [marks]);
}

const marked = new WeakMap<Shape, number>();
let marksGiven = 0;

/** A number that a shape keeps as long as it is the same. */
function markOf(shape: Shape): number {
  let mark = marked.get(shape);
  if (mark === undefined) marked.set(shape, (mark = ++marksGiven));
  return mark;
}

function treeOf(fields: Shape['fields']): FieldTree {
  return fieldTree(fields.map(({ steps, ...info }) => ({ steps, info }) as FlatField));
}
