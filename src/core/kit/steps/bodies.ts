import { hypot } from '../../elementary/index.ts';
import { NO_THICKNESS_MM } from '../../tolerances.ts';
import { axesSquareTo } from '../axes.ts';
import { eachSound, markFailed } from '../sound.ts';
import type { Builder } from '../builder.ts';
import { partFields, ref, refs, value, whole } from '../fields.ts';
import { fineLine } from '../curves.ts';
import { normalAt, ringOf } from '../fillOutline.ts';
import { lengthOf } from '../measures.ts';
import { meshArea } from '../../mesh/triangleMesh.ts';
import { meshVolume, turnedMesh, type Mesh } from '../mesh.ts';
import type { Block, Body, Line, PartPlan } from '../program.ts';
import { stepKind } from '../stepKind.ts';
import { FINE_BALL, FINE_CYLINDER, transformed, unitBall, UNIT_BOX, unitCylinder } from '../unitBodies.ts';
import { axesInPlace } from './barFrame.ts';
import { closedLine } from './sheets.ts';

/** A body that is a unit body put up by a transform: drawn as one of many equal ones. */
export interface PlacedBody extends Body {
	readonly unit: UnitBody;
	/** Writes the 12 numbers of the transform on host `h`. */
	readonly place: (block: Block, h: number, out: Float64Array, at: number) => void;
}

/** A body of size 1 with the quantities of what it stands for, put up with its axes so long; mm2 and mm3. */
interface UnitBody {
	readonly mesh: Mesh;
	/** What it is measured by where it is joined or cut, when that is not the mesh itself. */
	readonly fine?: Mesh;
	readonly area: (x: number, y: number, z: number) => number;
	readonly volume: (x: number, y: number, z: number) => number;
}

const BOX: UnitBody = {
	mesh: UNIT_BOX,
	area: (x, y, z) => 2 * (x * y + y * z + z * x),
	volume: (x, y, z) => x * y * z
};
const ballOf = (pieces: number): UnitBody => ({
	mesh: unitBall(pieces),
	fine: FINE_BALL,
	area: (r) => 4 * Math.PI * r * r,
	volume: (r) => (4 / 3) * Math.PI * r * r * r
});
const cylinderOf = (pieces: number): UnitBody => ({
	mesh: unitCylinder(pieces),
	fine: FINE_CYLINDER,
	area: (r, _, height) => 2 * Math.PI * r * (r + height),
	volume: (r, _, height) => Math.PI * r * r * height
});

function placed(b: Builder, unit: UnitBody, place: PlacedBody['place']): void {
	const matrix = new Float64Array(12);
	const putUp = (mesh: Mesh) => (block: Block, h: number) => {
		place(block, h, matrix, 0);
		return transformed(mesh, matrix);
	};
	const body: PlacedBody = {
		mask: b.mask,
		unit,
		place,
		mesh: putUp(unit.mesh),
		...(unit.fine ? { fine: putUp(unit.fine) } : {})
	};
	b.bodies.set(b.step!.name, body);
}

/** Marks hosts on which a size is not above 0. */
function sized(b: Builder, slots: readonly number[], what: string): void {
	const code = b.fault(`${what} must be above 0`);
	const { mask } = b;
	b.op((block) => {
		for (const slot of slots)
			for (let h = 0; h < block.count; h++) if (!(block.columns[slot]![h]! > 0)) markFailed(block, h, mask, code);
	});
}

export const ball = stepKind({
	kind: 'ball',
	group: 'bodies',
	makes: 'body',
	label: 'Ball',
	help: 'A ball around a point',
	fields: {
		at: ref(['point'], 'Centre'),
		radius: value('length', 'Radius', '', 50),
		pieces: whole(6, 96, 16, 'Pieces', 'Around its equator')
	},
	compile({ at, radius, pieces }, b) {
		const centre = b.point(at);
		const r = b.slot(radius, 'length', 'Radius');
		sized(b, [r], 'the radius');
		placed(b, ballOf(pieces), (block, h, out, o) => {
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
		if (line.count > 2)
			throw b.fail(`a cylinder runs along a straight line of two points; “${along}” has ${line.count}`);
		const [r, t] = [b.slot(radius, 'length', 'Radius'), b.slot(thickness, 'length', 'Thickness')];
		sized(b, line.count === 1 ? [r, t] : [r], line.count === 1 ? 'radius and thickness' : 'the radius');
		if (line.count === 2) lineHasLength(b, line);
		const axes = new Float64Array(9);
		placed(b, cylinderOf(pieces), (block, h, out, o) => {
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
	fields: {
		at: ref(['point'], 'Centre'),
		width: value('length', 'Width', '', 100),
		height: value('length', 'Height', '', 100),
		depth: value('length', 'Depth', 'Along the normal', 100)
	},
	compile({ at, width, height, depth }, b) {
		const centre = b.point(at);
		const sizes = [
			b.slot(width, 'length', 'Width'),
			b.slot(height, 'length', 'Height'),
			b.slot(depth, 'length', 'Depth')
		];
		sized(b, sizes, 'width, height and depth');
		const axes = new Float64Array(9);
		placed(b, BOX, (block, h, out, o) => {
			const p = (block.from + h) * block.stride + centre.first * 3;
			discAxes(block, h, axes);
			const size = sizes.map((s) => block.columns[s]![h]!);
			for (let c = 0; c < 3; c++) {
				for (let a = 0; a < 3; a++) out[o + a * 3 + c] = axes[a * 3 + c]! * size[a]!;
				out[o + 9 + c] =
					block.points[p + c]! - (axes[c]! * size[0]! + axes[3 + c]! * size[1]! + axes[6 + c]! * size[2]!) / 2;
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
		const drawnOut = (block: Block, h: number, low: Float64Array) => {
			const n = block.hosts.ids[block.from + h]! * 3;
			const by = block.columns[slot]![h]!;
			return lofted([low, low.map((x, k) => x + block.hosts.normal[n + (k % 3)]! * by)]);
		};
		b.bodies.set(b.step!.name, {
			mask: b.mask,
			mesh: (block, h) => drawnOut(block, h, ringOf(block, ring, h)),
			...(ring.curves ? { fine: (block: Block, h: number) => drawnOut(block, h, fineLine(block, ring, h)) } : {})
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
		if (rings.some((r) => r.count !== rings[0]!.count))
			throw b.fail(`its lines have ${rings.map((r) => r.count).join(', ')} corners; needed are as many`);
		// Only rings that are curved alike can be cut finely and still have as many corners.
		const curved =
			rings[0]!.curves && rings.every((r) => JSON.stringify(r.curves) === JSON.stringify(rings[0]!.curves));
		b.bodies.set(b.step!.name, {
			mask: b.mask,
			mesh: (block, h) => lofted(rings.map((r) => ringOf(block, r, h))),
			...(curved ? { fine: (block: Block, h: number) => sameCorners(rings.map((r) => fineLine(block, r, h))) } : {})
		});
	}
});

const sameCorners = (rings: readonly Float64Array[]): Mesh | undefined =>
	rings.every((r) => r.length === rings[0]!.length) ? lofted(rings) : undefined;

/** A closed body through rings one after the other, whichever of them is the outer one: its outside looks out. */
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
	const mesh = { positions, triangles: Uint32Array.from(triangles) };
	return meshVolume(mesh) < 0 ? turnedMesh(mesh) : mesh;
}

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
		const inside = b.fault(
			'the body has no volume or is turned inside out; right would be lines that lie apart and run around the same way'
		);
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
						const measured = body.fine?.(block, h) ?? mesh;
						const size = meshVolume(measured);
						const skin = meshArea(measured);
						// Between lines in one plane rounding leaves a body of either sign.
						if (!(size > (skin / 2) * NO_THICKNESS_MM)) return markFailed(block, h, mask, inside);
						out.rows.push(row);
						out.positionStart.push(out.positions.length);
						out.triangleStart.push(out.triangles.length);
						for (const x of mesh.positions) out.positions.push(x);
						for (const t of mesh.triangles) out.triangles.push(t);
						area[row] = skin;
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
	const matrix = new Float64Array(12);
	return {
		step,
		mask,
		measure(block, { area, length, volume, pieces }) {
			for (let h = 0; h < block.count; h++) {
				body.place(block, h, matrix, 0);
				const row = block.from + h;
				const [x, y, z] = [0, 3, 6].map((o) => hypot(matrix[o]!, matrix[o + 1]!, matrix[o + 2]!)) as [
					number,
					number,
					number
				];
				volume[row] = body.unit.volume(x, y, z);
				area[row] = body.unit.area(x, y, z);
				length[row] = 0;
				pieces[row] = 1;
			}
		},
		geometry: {
			kind: 'instances',
			mesh: () => body.unit.mesh,
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
