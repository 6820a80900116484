import { markFailed } from '../sound.ts';
import { bayBorder } from '../baySize.ts';
import type { Builder } from '../builder.ts';
import { option, whole } from '../fields.ts';
import type { Line } from '../program.ts';
import { stepKind } from '../stepKind.ts';

const layer = option(
	{ lower: 'Face', upper: 'Second layer' },
	'Layer',
	'Of hosts with depth; the second layer lies outside or inside of the face, and bodies between them are right either way'
);
type Layer = 'lower' | 'upper';

/** The host's own line: around a cell or a node, along an edge or a path. */
export const outline = stepKind({
	kind: 'outline',
	group: 'lines',
	makes: 'line',
	label: 'Outline',
	help: 'The host’s own line: around a cell or a bay, around the neighbours of a node, along an edge (curved beside a round opening) or a path (closed where it meets itself)',
	fields: { layer },
	compile({ layer }, b) {
		const { kind, corners, single } = b.shape;
		const { host } = b.kit;
		const border = kind === 'bay' && host.kind === 'bay' ? bayBorder(host) : undefined;
		const closed = border || kind === 'cell' || kind === 'box' || kind === 'node' || b.shape.closed === true;
		const holes = (single?.holes ?? []).map((count, k) => {
			const hole = b.take(count, true);
			b.op(({ hosts, points, stride, from, count: hosts_ }) => {
				const nodes = hosts.holes![k]!;
				for (let h = 0; h < hosts_; h++)
					for (let c = 0; c < count; c++)
						for (let axis = 0; axis < 3; axis++)
							points[(from + h) * stride + (hole.first + c) * 3 + axis] = hosts.position[nodes[c]! * 3 + axis]!;
			});
			return hole;
		});
		// An edge of more than two points is a curve, as along a round opening.
		const bent =
			kind === 'edge' && corners > 2 ? { bent: true, curves: [{ from: 0, count: corners - 1, tangent: false }] } : {};
		const line = b.make(border?.length ?? corners, Boolean(closed), {
			holes,
			...bent,
			free: kind === 'node' || Boolean(border),
			spokes: kind === 'node'
		});
		gather(b, line, border ?? countFrom(kind === 'node' ? 1 : 0, corners), layer);
	}
});

/** One of the host's points. */
export const corner = stepKind({
	kind: 'corner',
	group: 'points',
	makes: 'point',
	label: 'Corner',
	help: 'A corner by its number, counted from 1 at the lower left, of bays row by row; 0 is the node itself, −1 the last one',
	fields: { corner: whole(-64, 1000, 1, 'Number', 'From 1; −1 is the last'), layer },
	compile({ corner, layer }, b) {
		const { kind } = b.shape;
		// What lies between the ends of a curved edge are no corners.
		const corners = kind === 'edge' ? 2 : b.shape.corners;
		const number = corner < 0 ? corners + 1 + corner : corner;
		const least = kind === 'node' ? 0 : 1;
		if (number < least || number > corners) throw b.fail(`there is no corner ${corner}; this host has ${corners}`);
		const place = kind === 'node' ? number : kind === 'edge' && number === 2 ? b.shape.corners - 1 : number - 1;
		gather(b, b.make(1, false, { corner: place }), [place], layer);
	}
});

const NO_LAYER = 'the face has no second layer; right would be one, whose distance is set under Setting-out';

const countFrom = (from: number, count: number) => Array.from({ length: count }, (_, k) => from + k);

/** Copies points of the hosts by their numbers; a host without area fails. */
function gather(b: Builder, to: Line, numbers: readonly number[], layer: Layer): void {
	if (layer === 'upper' && b.shape.kind !== 'box' && b.shape.kind !== 'node')
		throw b.fail('there is a second layer on nodes and on hosts with depth only; this kit is made for others');
	const none = layer === 'upper' ? b.fault(NO_LAYER) : 0;
	const flat = b.fault('the host has no area; right would be a cell whose corners lie apart');
	const { mask } = to;
	b.op((block) => {
		const { hosts, points, stride, from, count } = block;
		const { ids, cornerStart, corners, normal } = hosts;
		const position = layer === 'upper' ? hosts.upper : hosts.position;
		if (!position) {
			for (let h = 0; h < count; h++) markFailed(block, h, mask, none);
			return;
		}
		for (let h = 0; h < count; h++) {
			const id = ids[from + h]!;
			const n = id * 3;
			// Written so that a number that is no number fails too.
			if (!(Math.abs(normal[n]!) + Math.abs(normal[n + 1]!) + Math.abs(normal[n + 2]!) > 0))
				markFailed(block, h, mask, flat);
			const start = cornerStart[id]!;
			let o = (from + h) * stride + to.first * 3;
			for (let k = 0; k < to.count; k++) {
				const p = corners[start + numbers[k]!]! * 3;
				points[o++] = position[p]!;
				points[o++] = position[p + 1]!;
				points[o++] = position[p + 2]!;
			}
		}
	});
}
