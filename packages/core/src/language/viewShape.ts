import type { FieldTree } from '../shape/fieldTree.ts';
import { checkPipeline } from './checkPipeline.ts';
import { surfaceNamed } from './surfaces/registry.ts';
import type { Views } from './sources.ts';

/** What rows of sources look like, those of views worked out from their stages. */
export function withViewShapes(
  shapeOf: (collection: string) => FieldTree | undefined,
  views: Views,
): (source: string) => FieldTree | undefined {
  const known = new Map<string, FieldTree | undefined>();
  const shape = (name: string): FieldTree | undefined => {
    const view = views.get(name);
    if (view === undefined) return shapeOf(name);
    if (!known.has(name)) {
      // A view that comes back to itself meets this, and ends.
      known.set(name, undefined);
      const { stages } = checkPipeline(surfaceNamed(view.surface).parse(view.pipeline), { shapeOf: shape });
      known.set(name, stages[stages.length - 1]?.after);
    }
    return known.get(name);
  };
  return shape;
}
