import { hypot } from '../../elementary/index.ts';
import { axesSquareTo } from '../axes.ts';
import { eachSound, markFailed, type Builder } from '../builder.ts';
import { option, partFields, ref, refs, value, whole } from '../fields.ts';
import { normalAt } from '../fillOutline.ts';
import { lengthOf } from '../measures.ts';
import { meshArea } from '../../mesh/triangleMesh.ts';
import { meshVolume, type Mesh } from '../mesh.ts';
import type { Block, Body, Line, PartPlan } from '../program.ts';
import { stepKind } from '../stepKind.ts';
import { transformed, unitBall, UNIT_BOX, unitCylinder } from '../unitBodies.ts';
import { axesInPlace } from './bar.ts';
import { closedLine } from './sheets.ts';

/** A body that is a unit body put up by a transform: drawn as one of many equal ones. */
export interface PlacedBody extends Body {
	readonly unit: Mesh;
	/** Writes the 12 numbers of the transform on host `h`. */
	readonly place: (block: Block, h: number, out: Float64Array, at: number) => void;
}

function placed(b: Builder, unit: Mesh, place: PlacedBody['place']): void {
	const matrix = new Float64Array(12);
	const body: PlacedBody = {
		mask: b.mask,
		unit,
		place,
		mesh(block, h) {
			place(block, h, matrix, 0);
			return transformed(unit, matrix);
		}
	};
	b.bodies.set(b.step!.name, body);
}

/** Marks hosts on which a size is not above 0. */
function sized(b: Builder, slots: readonly number[], what: string): void {
	const code = b.fault(`${what} must be above 0`);
	const { mask } = b;
	b.op((block) => {
		for (const slot of slots) for (let h = 0; h < block.count; h++) if (!(block.columns[slot]![h]! > 0)) markFailed(block, h, mask, code);
	});
}

export const ball = stepKind({
	kind: 'ball',
	group: 'bodies',
	makes: 'body',
	label: 'Ball',
	help: 'A ball around a point',
	fields: { at: ref(['point'], 'Centre'), radius: value('length', 'Radius', '', 50), pieces: whole(6, 96, 16, 'Pieces', 'Around its equator') },
	compile({ at, radius, pieces }, b) {
		const centre = b.point(at);
		const r = b.slot(radius, 'length', 'Radius');
		sized(b, [r], 'the radius');
		placed(b, unitBall(pieces), (block, h, out, o) => {
			const p = (block.from + h) * block.stride + centre.first * 3;
			out.fill(0, o, o + 9);
			out[o] = out[o + 4] = out[o + 8] = block.columns[r]![h]!;
			for (let c = 0; c < 3; c++) out[o + 9 + c] = block.points[p + c]!;
		});
	}
});

export const cylinder = stepKind({
	kind: 'cylinder',
	group: 'bodies',
	makes: 'body',
	label: 'Cylinder',
	help: 'A cylinder along a straight line, or a disc of a thickness around a point, square to the host’s normal',
	fields: {
		along: ref(['line', 'point'], 'Line or point'),
		radius: value('length', 'Radius', '', 50),
		thickness: value('length', 'Thickness', 'Of a disc around a point', 10),
		pieces: whole(6, 96, 24, 'Pieces', 'Around it')
	},
	compile({ along, radius, thickness, pieces }, b) {
		const line = b.line(along);
		if (line.count > 2) throw b.fail(`a cylinder runs along a straight line of two points; “${along}” has ${line.count}`);
		const [r, t] = [b.slot(radius, 'length', 'Radius'), b.slot(thickness, 'length', 'Thickness')];
		sized(b, line.count === 1 ? [r, t] : [r], line.count === 1 ? 'radius and thickness' : 'the radius');
		if (line.count === 2) lineHasLength(b, line);
		const axes = new Float64Array(9);
		placed(b, unitCylinder(pieces), (block, h, out, o) => {
			const p = (block.from + h) * block.stride + line.first * 3;
			const size = block.columns[r]![h]!;
			if (line.count === 1) discAxes(block, h, axes);
			const length = line.count === 1 ? block.columns[t]![h]! : axesInPlace(axes, block, h, p, p + 3);
			for (let c = 0; c < 3; c++) {
				out[o + c] = axes[c]! * size;
				out[o + 3 + c] = axes[3 + c]! * size;
				out[o + 6 + c] = axes[6 + c]! * length;
				out[o + 9 + c] = block.points[p + c]! - (line.count === 1 ? axes[6 + c]! * (length / 2) : 0);
			}
		});
	}
});

function lineHasLength(b: Builder, line: Line): void {
	const code = b.fault('its line has no length');
	const { mask } = b;
	b.op((block) => {
		for (let h = 0; h < block.count; h++) if (!(lengthOf(block, line, h) > 0)) markFailed(block, h, mask, code);
	});
}

/** Two axes square to the host's normal, and the normal. */
function discAxes(block: Block, h: number, axes: Float64Array): void {
	const normal = normalAt(block, h);
	const [right, up] = axesSquareTo(normal);
	axes.set([...right, ...up, ...normal]);
}

export const box = stepKind({
	kind: 'box',
	group: 'bodies',
	makes: 'body',
	label: 'Box',
	help: 'A box around a point, its sides along the host’s normal and square to it',
	fields: { at: ref(['point'], 'Centre'), width: value('length', 'Width', '', 100), height: value('length', 'Height', '', 100), depth: value('length', 'Depth', 'Along the normal', 100) },
	compile({ at, width, height, depth }, b) {
		const centre = b.point(at);
		const sizes = [b.slot(width, 'length', 'Width'), b.slot(height, 'length', 'Height'), b.slot(depth, 'length', 'Depth')];
		sized(b, sizes, 'width, height and depth');
		const axes = new Float64Array(9);
		placed(b, UNIT_BOX, (block, h, out, o) => {
			const p = (block.from + h) * block.stride + centre.first * 3;
			discAxes(block, h, axes);
			const size = sizes.map((s) => block.columns[s]![h]!);
			for (let c = 0; c < 3; c++) {
				for (let a = 0; a < 3; a++) out[o + a * 3 + c] = axes[a * 3 + c]! * size[a]!;
				out[o + 9 + c] = block.points[p + c]! - (axes[c]! * size[0]! + axes[3 + c]! * size[1]! + axes[6 + c]! * size[2]!) / 2;
			}
		});
	}
});

export const prism = stepKind({
	kind: 'prism',
	group: 'bodies',
	makes: 'body',
	label: 'Prism',
	help: 'A closed line drawn out along the host’s normal',
	fields: { outline: ref(['line'], 'Outline'), height: value('length', 'Height', 'Outwards; below 0 inwards', 100) },
	compile({ outline, height }, b) {
		const ring = closedLine(b, outline);
		const slot = b.slot(height, 'length', 'Height');
		const code = b.fault('its height is 0; right would be a height above or below 0');
		const { mask } = b;
		b.op((block) => {
			for (let h = 0; h < block.count; h++) if (block.columns[slot]![h] === 0) markFailed(block, h, mask, code);
		});
		b.bodies.set(b.step!.name, {
			mask: b.mask,
			mesh(block, h) {
				const n = block.hosts.ids[block.from + h]! * 3;
				const by = block.columns[slot]![h]!;
				const start = (block.from + h) * block.stride + ring.first * 3;
				const low = block.points.slice(start, start + ring.count * 3);
				const high = low.map((x, k) => x + block.hosts.normal[n + (k % 3)]! * by);
				return lofted(by < 0 ? [high, low] : [low, high]);
			}
		});
	}
});

export const loft = stepKind({
	kind: 'loft',
	group: 'bodies',
	makes: 'body',
	label: 'Loft',
	help: 'A body through closed lines of as many corners, one above the other',
	fields: { through: refs(['line'], 'Through', 'From the inside to the outside', 2) },
	compile({ through }, b) {
		const rings = through.map((name) => closedLine(b, name));
		if (rings.some((r) => r.count !== rings[0]!.count)) throw b.fail(`its lines have ${rings.map((r) => r.count).join(', ')} corners; needed are as many`);
		b.bodies.set(b.step!.name, {
			mask: b.mask,
			mesh: (block, h) => lofted(rings.map((r) => block.points.slice((block.from + h) * block.stride + r.first * 3, (block.from + h) * block.stride + (r.first + r.count) * 3)))
		});
	}
});

/** A closed body through rings from the lowest to the highest, each anticlockwise seen from above. */
function lofted(rings: readonly Float64Array[]): Mesh {
	const n = rings[0]!.length / 3;
	const triangles: number[] = [];
	for (let k = 1; k + 1 < n; k++) triangles.push(0, k + 1, k);
	for (let r = 0; r + 1 < rings.length; r++)
		for (let k = 0; k < n; k++) {
			const [a, b] = [r * n + k, r * n + ((k + 1) % n)];
			triangles.push(a, b, b + n, a, b + n, a + n);
		}
	const top = (rings.length - 1) * n;
	for (let k = 1; k + 1 < n; k++) triangles.push(top, top + k, top + k + 1);
	const positions = new Float64Array(rings.length * n * 3);
	rings.forEach((ring, r) => positions.set(ring, r * n * 3));
	return { positions, triangles: Uint32Array.from(triangles) };
}

export const combine = stepKind({
	kind: 'combine',
	group: 'bodies',
	makes: 'body',
	label: 'Combine bodies',
	help: 'Bodies joined, taken from the first, or what is in all of them',
	fields: { operation: option({ union: 'Joined', difference: 'Taken from the first', intersection: 'What is in all' }, 'How'), of: refs(['body'], 'Of', 'Bodies; the first is the one that is cut', 2) },
	compile({ operation, of }, b) {
		const bodies = of.map((name) => b.body(name));
		const empty = b.fault('nothing is left of the body; right would be bodies that meet');
		const open = b.fault('one of its bodies is not closed, or is turned inside out');
		b.needsSolids = true;
		const { mask } = b;
		b.bodies.set(b.step!.name, {
			mask: b.mask,
			mesh(block, h) {
				const meshes = bodies.map((body) => body.mesh(block, h));
				if (meshes.some((m) => !m)) return undefined;
				if (!block.solids) throw b.fail('bodies cannot be combined here, since the solids package is not loaded');
				try {
					const mesh = block.solids.combine(operation, meshes as Mesh[]);
					if (!mesh) markFailed(block, h, mask, empty);
					return mesh;
				} catch {
					markFailed(block, h, mask, open);
					return undefined;
				}
			}
		});
	}
});

/** A body that is made. */
export const solid = stepKind({
	kind: 'solid',
	group: 'parts',
	makes: 'part',
	label: 'Solid',
	help: 'A part made of a body',
	fields: { ...partFields, body: ref(['body'], 'Body') },
	compile(step, b) {
		const body = b.body(step.body);
		const { mask } = b;
		const inside = b.fault('the body is turned inside out; right would be lines from the inside to the outside, or a positive size');
		if ('unit' in body) return void b.parts.push(placedPart(body as PlacedBody, step, mask));
		b.parts.push({
			step,
			mask,
			geometry: {
				kind: 'loose',
				generate(block, out, { area, length, volume, pieces }) {
					eachSound(block, mask, (h) => {
						const mesh = body.mesh(block, h);
						if (!mesh) return;
						const row = block.from + h;
						const size = meshVolume(mesh);
						if (!(size > 0)) return markFailed(block, h, mask, inside);
						out.rows.push(row);
						out.positionStart.push(out.positions.length);
						out.triangleStart.push(out.triangles.length);
						for (const x of mesh.positions) out.positions.push(x);
						for (const t of mesh.triangles) out.triangles.push(t);
						area[row] = meshArea(mesh);
						length[row] = 0;
						volume[row] = size;
						pieces[row] = 1;
					});
				}
			}
		});
	}
});

function placedPart(body: PlacedBody, step: Parameters<(typeof solid)['compile']>[0], mask: number): PartPlan {
	const [unitArea, unitVolume] = [meshArea(body.unit), meshVolume(body.unit)];
	const matrix = new Float64Array(12);
	return {
		step,
		mask,
		measure(block, { area, length, volume, pieces }) {
			for (let h = 0; h < block.count; h++) {
				body.place(block, h, matrix, 0);
				const row = block.from + h;
				const [x, y, z] = [0, 3, 6].map((o) => hypot(matrix[o]!, matrix[o + 1]!, matrix[o + 2]!)) as [number, number, number];
				volume[row] = x * y * z * unitVolume;
				// Exact for balls; of others all sides together.
				area[row] = x === y && y === z ? x * x * unitArea : meshArea(transformed(body.unit, matrix));
				length[row] = 0;
				pieces[row] = 1;
			}
		},
		geometry: {
			kind: 'instances',
			mesh: () => body.unit,
			generate(block, { transforms, rows }) {
				eachSound(block, mask, (h) => {
					const at = transforms.take(12);
					body.place(block, h, transforms.values, at);
					rows.push(block.from + h);
				});
			}
		}
	};
}
