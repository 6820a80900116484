import { float32sOf, hasContent, uint32sOf } from '../../core/content.ts';
import type { Project } from '../../core/project/schema.ts';
import type { PlainSurface } from '../stage/bodyMeshes.ts';

type Reference = Project['references'][number];

/** The same surface for the same reference, since objects on the graphics card hang on it. */
const known = new Map<string, PlainSurface>();
const MOST_KNOWN = 100;

/** The triangles of a reference, mm; nothing while its contents are not here. */
export function referenceSurface({ positions, triangles }: Reference): PlainSurface | undefined {
	if (!hasContent(positions) || !hasContent(triangles)) return undefined;
	const key = `${positions} ${triangles}`;
	const there = known.get(key);
	if (there) return there;
	const surface = { positions: float32sOf(positions), indices: uint32sOf(triangles) };
	if (known.size > MOST_KNOWN) known.clear();
	known.set(key, surface);
	return surface;
}
