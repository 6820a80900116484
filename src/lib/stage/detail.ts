import { Vector3, type PerspectiveCamera } from 'three';
import type { FaceView } from '../../core/view/faceView.ts';
import type { ModelView } from '../../core/view/modelView.ts';
import type { ModelLook } from './modelLayer.ts';
import { METRES_PER_MM } from './previewLayer.ts';
import type { TurnedStep } from './turnPace.ts';

/** How much of what stands on faces is drawn, as it is chosen by hand or left to the picture. */
export const DETAILS = {
	auto: {
		label: 'As the picture needs',
		meaning: 'Everything; less where cells are tiny, and while a model is turned that takes long to draw'
	},
	full: { label: 'Everything', meaning: 'All parts, however many' },
	panes: { label: 'Panes', meaning: 'Each cell as one surface' },
	outlines: { label: 'Outlines', meaning: 'The lines of the division alone' }
} as const;
export type Detail = keyof typeof DETAILS;
/** What one face is drawn with. */
export interface Level {
	readonly level: Exclude<Detail, 'auto'>;
	/** Whether the lines of its division are drawn. */
	readonly lines: boolean;
}

/** Triangles of parts, and lines, of a model that are turned until it is known how long that takes. */
const MOST_TRIANGLES = 400_000;
const MOST_LINES = 50_000;
/** Cells that are smaller in the picture, in pixels, have no parts to be told apart, and their lines would cover all. */
const LEAST_PIXELS = 4;

/** Where a face is and how large its cells are, in the metres of the scene. */
interface Extent {
	readonly hash: string;
	readonly middle: Vector3;
	readonly radius: number;
	readonly cell: number;
	readonly triangles: number;
	readonly lines: number;
}

const sumOf = (extents: readonly Extent[], of: (extent: Extent) => number) =>
	extents.reduce((sum, extent) => sum + of(extent), 0);

/** Says what each face is drawn with. */
export class DetailChoice {
	private extents: readonly Extent[] = [];
	private triangles = 0;
	private lines = 0;

	/** O(nodes). */
	setModel({ faces, bodies }: ModelView): void {
		const areas = new Map(bodies.map((b) => [b.key, b.area]));
		this.extents = faces.filter((f) => !f.hidden).map((face) => extentOf(face, areas.get(face.key) ?? 0));
		this.triangles = sumOf(this.extents, (e) => e.triangles);
		this.lines = sumOf(this.extents, (e) => e.lines);
	}

	/** About how much there is to draw: triangles of parts where these are shown, and lines. */
	size({ bare, coloured }: Pick<ModelLook, 'bare' | 'coloured'>): number {
		return this.lines + (bare || coloured ? 0 : this.triangles);
	}

	/** What is turned of a model that has not been timed. */
	get untimed(): TurnedStep {
		return this.lines > MOST_LINES ? 'plain' : this.triangles > MOST_TRIANGLES ? 'panes' : 'all';
	}

	/** By the hash of each face; `turned` says what is left out just now. */
	levels(detail: Detail, camera: PerspectiveCamera, height: number, turned: TurnedStep): ReadonlyMap<string, Level> {
		const perMetre = height / (2 * Math.tan((camera.fov * Math.PI) / 360));
		return new Map(
			this.extents.map(({ hash, middle, radius, cell }): [string, Level] => {
				if (detail !== 'auto') return [hash, { level: detail, lines: true }];
				// As near as the face comes.
				const far = Math.max(camera.near, camera.position.distanceTo(middle) - radius);
				const tiny = (cell * perMetre) / far < LEAST_PIXELS;
				return [hash, { level: tiny || turned !== 'all' ? 'panes' : 'full', lines: !tiny && turned !== 'plain' }];
			})
		);
	}
}

function extentOf({ hash, nodes, cellCount, edgeCount, batches, instances }: FaceView, area: number): Extent {
	const middle = new Vector3();
	const point = new Vector3();
	const count = Math.max(1, nodes.length / 3);
	for (let k = 0; k < nodes.length; k += 3) middle.add(point.fromArray(nodes, k));
	middle.divideScalar(count);
	let radius = 0;
	for (let k = 0; k < nodes.length; k += 3) radius = Math.max(radius, middle.distanceTo(point.fromArray(nodes, k)));
	const triangles =
		batches.reduce((n, b) => n + b.indices.length / 3, 0) +
		instances.reduce((n, b) => n + ((b.indices.length / 3) * b.matrices.length) / 16, 0);
	return {
		hash,
		middle: middle.multiplyScalar(METRES_PER_MM),
		radius: radius * METRES_PER_MM,
		cell: Math.sqrt(area / Math.max(1, cellCount)) * METRES_PER_MM,
		triangles,
		lines: edgeCount
	};
}

/** The material that most of a face's parts show, by the area of some of their triangles; nothing where there are none. */
export function mainMaterial({ batches, instances }: Pick<FaceView, 'batches' | 'instances'>): string | undefined {
	const areas = new Map<string, number>();
	const add = (material: string, area: number) => areas.set(material, (areas.get(material) ?? 0) + area);
	for (const { material, positions, indices } of batches) add(material, areaOf(positions, indices));
	for (const { material, positions, indices, matrices } of instances)
		add(material, areaOf(positions, indices) * (matrices.length / 16));
	return [...areas].sort(([, a], [, b]) => b - a)[0]?.[0];
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
