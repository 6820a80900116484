import { Vector3, type PerspectiveCamera } from 'three';
import type { FaceView } from '../../core/view/faceView.ts';
import type { ModelView } from '../../core/view/modelView.ts';
import type { ModelLook } from './modelLayer.ts';
import { METRES_PER_MM } from './previewLayer.ts';
import { spreadOver } from './spread.ts';
import type { Turned, TurnedStep } from './turnPace.ts';

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
	readonly level: Exclude<Detail, 'auto'> | 'coarse';
	/** Whether the lines of its division are drawn. */
	readonly lines: boolean;
}

/** Triangles of parts, and lines, of a model that are turned until it is known how long that takes. */
const MOST_TRIANGLES = 400_000;
const MOST_LINES = 50_000;
/** The cells of a model of fewer lines are drawn as quickly as coarse ones. */
const LEAST_COARSE = 15_000;
/** Cells that are smaller in the picture, in pixels, have no parts to be told apart. */
const LEAST_WITH_PARTS = 6;
/** The lines of smaller ones would cover all. */
const LEAST_WITH_LINES = 4;
/** Points of a face that are looked at for how near it comes. */
const LOOKED_AT = 200;

/** Where a face is and how large its cells are, in the metres of the scene. */
interface Extent {
	readonly face: string;
	readonly points: readonly Vector3[];
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

	/** What there is to turn, where it is shown so. */
	turned({ bare, coloured }: Pick<ModelLook, 'bare' | 'coloured'>): Turned {
		const { lines, triangles } = this;
		const many = lines > MOST_LINES;
		if (bare) return { size: lines, steps: ['all', 'plain'], guess: many ? 'plain' : 'all' };
		const last: TurnedStep[] = lines > LEAST_COARSE ? ['plain', 'coarse'] : ['plain'];
		if (coloured) return { size: lines, steps: ['all', ...last], guess: many ? 'plain' : 'all' };
		return {
			size: lines + triangles,
			steps: ['all', 'panes', ...last],
			guess: many ? 'plain' : triangles > MOST_TRIANGLES ? 'panes' : 'all'
		};
	}

	/** By the key of each face; `turned` says what is left out just now. */
	levels(detail: Detail, camera: PerspectiveCamera, height: number, turned: TurnedStep): ReadonlyMap<string, Level> {
		const perMetre = height / (2 * Math.tan((camera.fov * Math.PI) / 360));
		return new Map(
			this.extents.map(({ face, points, cell }): [string, Level] => {
				if (detail !== 'auto') return [face, { level: detail, lines: true }];
				// As near as the face comes.
				const far = points.reduce((least, point) => Math.min(least, camera.position.distanceTo(point)), Infinity);
				const pixels = (cell * perMetre) / Math.max(camera.near, far);
				const lines = pixels >= LEAST_WITH_LINES && (turned === 'all' || turned === 'panes');
				const parts = pixels >= LEAST_WITH_PARTS && turned === 'all';
				return [face, { level: turned === 'coarse' ? 'coarse' : parts ? 'full' : 'panes', lines }];
			})
		);
	}
}

function extentOf({ key, nodes, cellCount, edgeCount, batches, instances }: FaceView, area: number): Extent {
	const points = spreadOver(nodes.length / 3, LOOKED_AT).map((node) =>
		new Vector3().fromArray(nodes, node * 3).multiplyScalar(METRES_PER_MM)
	);
	const triangles =
		batches.reduce((n, b) => n + b.indices.length / 3, 0) +
		instances.reduce((n, b) => n + ((b.indices.length / 3) * b.matrices.length) / 16, 0);
	return {
		face: key,
		points,
		cell: Math.sqrt(area / Math.max(1, cellCount)) * METRES_PER_MM,
		triangles,
		lines: edgeCount
	};
}
