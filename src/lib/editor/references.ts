import { base64 } from '@scure/base';
import type { Project } from '../../core/project/schema.ts';
import type { PlainSurface } from '../stage/bodyMeshes.ts';

type Reference = Project['references'][number];

/** Decoded once for each text, since a project is copied at every edit. */
const known = new Map<string, { readonly triangles: string; readonly surface: PlainSurface }>();
const MOST_KNOWN = 100;

/** The triangles of a reference, mm. */
export function referenceSurface({ positions, triangles }: Reference): PlainSurface {
	const there = known.get(positions);
	if (there?.triangles === triangles) return there.surface;
	const surface = {
		positions: new Float32Array(base64.decode(positions).buffer as ArrayBuffer),
		indices: new Uint32Array(base64.decode(triangles).buffer as ArrayBuffer)
	};
	if (known.size > MOST_KNOWN) known.clear();
	known.set(positions, { triangles, surface });
	return surface;
}
