import { Color, SRGBColorSpace, Vector3 } from 'three';
import type { FaceView } from '../../core/view/faceView.ts';
import type { MaterialLook } from './materials.ts';

/** Steps of a mixed colour and opacity: every other mixture would be a material of its own for good. */
const COLOUR_STEPS = 32;

/** How a face looks from afar: its parts' colours and opacities, mixed by the area of some of their triangles. */
export function mixedLook(
	{ batches, instances }: Pick<FaceView, 'batches' | 'instances'>,
	looks: readonly MaterialLook[]
): Omit<MaterialLook, 'id'> | undefined {
	const mixed = new Color(0, 0, 0);
	let [opacity, all] = [0, 0];
	const add = (material: string, area: number) => {
		const look = looks.find((l) => l.id === material);
		if (!look || area === 0) return;
		mixed.add(new Color(look.colour).multiplyScalar(area));
		opacity += look.opacity * area;
		all += area;
	};
	for (const { material, positions, indices } of batches) add(material, areaOf(positions, indices));
	for (const { material, positions, indices, matrices } of instances)
		add(material, areaOf(positions, indices) * (matrices.length / 16));
	if (all === 0) return undefined;
	const stepped = (share: number) => Math.round(share * COLOUR_STEPS) / COLOUR_STEPS;
	const { r, g, b } = mixed.multiplyScalar(1 / all).getRGB({ r: 0, g: 0, b: 0 }, SRGBColorSpace);
	const colour = new Color().setRGB(stepped(r), stepped(g), stepped(b), SRGBColorSpace);
	return { colour: `#${colour.getHexString()}`, opacity: stepped(opacity / all) };
}

const SAMPLED = 500;

function areaOf(positions: Float32Array, indices: Uint32Array): number {
	const triangles = indices.length / 3;
	const step = Math.max(1, Math.floor(triangles / SAMPLED));
	const [a, b, c] = [new Vector3(), new Vector3(), new Vector3()];
	let [area, seen] = [0, 0];
	for (let t = 0; t < triangles; t += step, seen++) {
		a.fromArray(positions, indices[t * 3]! * 3);
		b.fromArray(positions, indices[t * 3 + 1]! * 3).sub(a);
		c.fromArray(positions, indices[t * 3 + 2]! * 3).sub(a);
		area += b.cross(c).length() / 2;
	}
	return seen ? (area * triangles) / seen : 0;
}
