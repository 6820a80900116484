import { base64 } from '@scure/base';
import type { Project } from '../../core/project/schema.ts';
import type { PlainSurface } from '../stage/bodyMeshes.ts';

type Reference = Project['references'][number];

/** Decoded once for each text, since a project is copied at every edit. */
const known = new Map<string, PlainSurface>();

/** The triangles of a reference, mm. */
export function referenceSurface({ id, positions, triangles }: Reference): PlainSurface {
	const key = `${id} ${positions.length} ${triangles.length}`;
	const surface = known.get(key) ?? {
		positions: new Float32Array(base64.decode(positions).buffer as ArrayBuffer),
		indices: new Uint32Array(base64.decode(triangles).buffer as ArrayBuffer)
	};
	known.set(key, surface);
	return surface;
}
