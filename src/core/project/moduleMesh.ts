import { bytesOfArray, keepContent } from '../content.ts';
import { ZygasterError } from '../errors.ts';
import type { FileContent } from '../mesh/importMesh.ts';
import { group } from '../units/print.ts';
import type { ModuleMesh } from './schema.ts';

/** Triangles of one module at most: it is fitted into every host. */
export const MOST_MODULE_TRIANGLES = 50_000;

/**
 * The pieces of a model file as one module: moved and scaled into a box from 0 to 1 along each axis. Throws a
 * ZygasterError with code `model-file` where it is too heavy or flat.
 */
export function moduleOf(name: string, { pieces }: FileContent): Omit<ModuleMesh, 'id'> {
	const total = pieces.reduce((n, p) => n + p.mesh.triangles.length / 3, 0);
	if (total > MOST_MODULE_TRIANGLES)
		throw new ZygasterError(
			'model-file',
			`“${name}” has ${group(total, 0)} triangles; a module has ${group(MOST_MODULE_TRIANGLES, 0)} at most, since it is fitted into every host. Right would be a simpler mesh.`
		);
	const [least, most] = [
		[Infinity, Infinity, Infinity],
		[-Infinity, -Infinity, -Infinity]
	];
	for (const { mesh } of pieces)
		mesh.positions.forEach((x, k) => {
			least[k % 3] = Math.min(least[k % 3]!, x);
			most[k % 3] = Math.max(most[k % 3]!, x);
		});
	const size = most.map((m, c) => m - least[c]!);
	const flat = size.findIndex((s) => !(s > 0));
	if (flat >= 0)
		throw new ZygasterError(
			'model-file',
			`“${name}” is flat along ${'xyz'[flat]}, so that it fills no box. Right would be a body with width, height and depth.`
		);
	const positions = new Float32Array(pieces.reduce((n, p) => n + p.mesh.positions.length, 0));
	const triangles = new Uint32Array(total * 3);
	let [at, t] = [0, 0];
	for (const { mesh } of pieces) {
		for (const corner of mesh.triangles) triangles[t++] = corner + at / 3;
		mesh.positions.forEach((x, k) => (positions[at + k] = (x - least[k % 3]!) / size[k % 3]!));
		at += mesh.positions.length;
	}
	return {
		name: name.replace(/\.[^.]*$/, '').slice(0, 120) || 'Mesh',
		positions: keepContent(bytesOfArray(positions)),
		triangles: keepContent(bytesOfArray(triangles))
	};
}
