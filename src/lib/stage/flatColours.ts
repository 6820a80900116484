import type { HostKind } from '../../core/readings/definition.ts';
import type { FlatFrame } from './flatFrame.ts';
import type { FlatScene } from './flatScene.ts';

/** The hosts of a face in the colours of a reading. */
export interface FlatColouring {
	readonly host: HostKind;
	/** Class of each host. */
	readonly classes: Uint8Array;
	readonly palette: readonly string[];
	readonly none: string;
}

const EDGE_PIXELS = 3.5;
const NODE_PIXELS = 4.5;

/** Paints cells, or the edges or corners of cells, in their colours: one path a colour. O(corners). */
export function paintColours(
	ctx: CanvasRenderingContext2D,
	scene: FlatScene,
	frame: FlatFrame,
	cells: readonly number[],
	{ host, classes, palette, none }: FlatColouring
): void {
	const { cornerStart, corners: nodes } = scene.face;
	const { corners } = scene.flat;
	const paths = new Map<number, Path2D>();
	const pathOf = (kind: number) => {
		const there = paths.get(kind);
		if (there) return there;
		const made = new Path2D();
		paths.set(kind, made);
		return made;
	};
	const x = (k: number) => (corners[k * 2]! - frame.left) * frame.scale;
	const y = (k: number) => (frame.top - corners[k * 2 + 1]!) * frame.scale;
	const edges = host === 'edge' ? scene.edgeOfSide : undefined;
	for (const c of cells) {
		const [from, to] = [cornerStart[c]!, cornerStart[c + 1]!];
		if (host === 'cell') {
			const path = pathOf(classes[c]!);
			path.moveTo(x(from), y(from));
			for (let k = from + 1; k < to; k++) path.lineTo(x(k), y(k));
			path.closePath();
			continue;
		}
		for (let k = from; k < to; k++) {
			if (edges) {
				const path = pathOf(classes[edges[k]!]!);
				const next = k + 1 < to ? k + 1 : from;
				path.moveTo(x(k), y(k));
				path.lineTo(x(next), y(next));
			} else {
				const path = pathOf(classes[nodes[k]!]!);
				path.moveTo(x(k) + NODE_PIXELS, y(k));
				path.arc(x(k), y(k), NODE_PIXELS, 0, 2 * Math.PI);
			}
		}
	}
	for (const [kind, path] of paths) {
		const colour = palette[kind] ?? none;
		if (host === 'edge') {
			ctx.strokeStyle = colour;
			ctx.lineWidth = EDGE_PIXELS;
			ctx.stroke(path);
		} else {
			ctx.fillStyle = colour;
			ctx.fill(path);
		}
	}
}
