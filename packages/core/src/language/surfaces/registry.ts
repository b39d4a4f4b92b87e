import { notation } from './notation/notation.ts';
import { readingOnce } from './readingOnce.ts';
import type { Surface } from './surface.ts';

/** Every face of the language, by its name. */
export const surfaces: Readonly<Record<SurfaceName, Surface>> = { notation: readingOnce(notation) };
export type SurfaceName = 'notation';

/** The face that is meant where none is named: the notation. */
export const usualSurface: Surface = surfaces.notation;

export function surfaceNamed(name: SurfaceName | undefined): Surface {
  return name === undefined ? usualSurface : surfaces[name];
}
