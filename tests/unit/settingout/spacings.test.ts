import { expect } from 'chai';
import { createSurface, mapSurface, type Surface } from '../../../src/core/geometry/surface.ts';
import { chartFace, faceForSettingOut } from '../../../src/core/settingout/chartedFace.ts';
import { validateNodes, setOut, type NodeTable } from '../../../src/core/settingout/nodes.ts';
import {
	directionOf,
	settingOutOf,
	settingOutSchema,
	type SettingOut,
	type Spacing
} from '../../../src/core/settingout/spacing.ts';
import { validateCells } from '../../../src/core/tiling/cells.ts';
import { tileRectangular } from '../../../src/core/tiling/rectangular.ts';
import { count } from '../divide.ts';
import { frustum, rectangle, sphereZone, translation } from '../surfaces.ts';

const LEVELS = [
	{ id: 'one', name: 'One', height: 1000 },
	{ id: 'two', name: 'Two', height: 2500 },
	{ id: 'roof', name: 'Roof', height: 20_000 }
];
const lay = (surface: Surface, settingOut: SettingOut) =>
	setOut(faceForSettingOut(chartFace(surface), settingOut), settingOut, LEVELS);
const by = (across: Spacing, up: Spacing, more: Partial<SettingOut> = {}): SettingOut => ({
	...settingOutOf(across, up),
	...more
});
const at = ({ position, columns }: NodeTable, i: number, j: number) => [
	...position.subarray((j * columns + i) * 3, (j * columns + i) * 3 + 3)
];
const far = (a: number[], b: number[]) => Math.hypot(a[0]! - b[0]!, a[1]! - b[1]!, a[2]! - b[2]!);

/** An upright wall in the plane y = 0 whose upper border rises from `left` to `right`. */
const wall = (left: number, right: number, width = 6000) =>
	createSurface({
		degreeU: 1,
		degreeV: 1,
		knotsU: [0, 0, 1, 1],
		knotsV: [0, 0, 1, 1],
		points: [
			[
				[0, 0, 0],
				[width, 0, 0]
			],
			[
				[0, 0, left],
				[width, 0, right]
			]
		]
	});

/** A flat face 6 m wide whose control points bunch up on the left. */
const bunched = () =>
	createSurface({
		degreeU: 3,
		degreeV: 1,
		knotsU: [0, 0, 0, 0, 1, 1, 1, 1],
		knotsV: [0, 0, 1, 1],
		points: [4000, 0].map((x) => [0, 100, 500, 6000].map((y): [number, number, number] => [x, y, 0]))
	});

function sound(nodes: NodeTable) {
	const cells = tileRectangular(nodes);
	expect(validateCells(cells, nodes.position.length / 3)).deep.equal([]);
	const used = new Set(cells.corners);
	expect(validateNodes(nodes, (n) => used.has(n))).deep.equal([]);
	return { cells, euler: new Set(cells.corners).size - cells.edgeCount + cells.count };
}

describe('spacing at levels and planes', () => {
	it('puts nodes exactly on the levels, with even divisions between them', () => {
		const { nodes, up, notes } = lay(
			sphereZone(8000, -0.2, 1),
			by(count(12), { kind: 'levels', levels: ['one', 'two', 'roof'], divisions: 3 })
		);
		expect(up.count).equal(5);
		for (let j = 1; j <= 4; j++)
			for (let i = 0; i < 12; i++) expect(at(nodes, i, j)[2]).closeTo(1000 + (j - 1) * 500, 1e-6);
		expect(notes).length(1);
		expect(notes[0]).contains('Level “Roof” at 20 000 mm does not reach this face');
	});

	it('lets a level run out where the face is lower, without cells of no area', () => {
		const { nodes } = lay(wall(800, 4000), by(count(8), { kind: 'levels', levels: [], divisions: 1 }));
		const { cells, euler } = sound(nodes);
		expect(euler).equal(1);
		// Level one is reached at 800 + 3200 x / 6000 = 1000, level two further on: fields beyond are none.
		expect(cells.count)
			.lessThan(8 * 3)
			.greaterThan(8);
		for (const n of new Set(cells.corners))
			expect(
				[0, 1000, 2500].some((z) => Math.abs(nodes.position[n * 3 + 2]! - z) < 1e-6) ||
					nodes.position[n * 3 + 2]! >= 800 - 1e-6
			).true;
	});

	it('cuts by upright planes square to a bearing', () => {
		const settingOut = by(
			{ kind: 'planes', upright: true, bearing: Math.PI / 2, lay: { kind: 'every', first: 500, every: 1200 } },
			count(3)
		);
		const { nodes, across } = lay(wall(3000, 5000), settingOut);
		expect(across.count).equal(6);
		[0, 500, 1700, 2900, 4100, 5300, 6000].forEach((x, i) => {
			for (let j = 0; j <= 3; j++) expect(at(nodes, i, j)[0]).closeTo(x, 1e-6);
		});
	});

	it('cuts by planes around an axis, wherever the face’s parameter runs', () => {
		const settingOut = by(
			{ kind: 'radial', x: 0, y: 0, lay: { kind: 'every', first: 0, every: Math.PI / 6 } },
			count(4)
		);
		const { nodes } = lay(frustum(4000, 2500, 6000), settingOut);
		for (let i = 1; i < nodes.columns - 1; i++)
			for (let j = 0; j <= 4; j++) {
				const [x, y] = at(nodes, i, j) as [number, number, number];
				const steps = Math.atan2(x, y) / (Math.PI / 6);
				expect(Math.abs(steps - Math.round(steps))).lessThan(1e-9);
			}
		expect(sound(nodes).euler).equal(0);
	});

	it('says so where planes cannot divide a face', () => {
		const arch: [number, number, number][] = [
			[0, 0, 0],
			[0, 5000, 6000],
			[0, 10_000, 0]
		];
		const vault = translation(
			[
				[0, 0, 0],
				[4000, 0, 0]
			],
			arch
		);
		expect(() => lay(vault, by(count(4), { kind: 'levels', levels: [], divisions: 1 }))).throw('turns back on its way');
		expect(() => lay(wall(500, 600), by(count(4), { kind: 'levels', levels: [], divisions: 1 }))).throw(
			'None of the levels cuts this face: it runs from 0 mm to 600 mm'
		);
		expect(() => lay(wall(500, 600), by(count(4), { kind: 'levels', levels: ['cellar'], divisions: 1 }))).throw(
			'There is no level “cellar”'
		);
	});

	it('goes through the points of a line drawn on the flat face', () => {
		const { nodes, across } = lay(
			rectangle(9000, 4000),
			by(
				{
					kind: 'curve',
					points: [
						[1000, 0],
						[7000, 4000]
					],
					divisions: 3
				},
				{ kind: 'off' }
			)
		);
		expect(across.count).equal(5);
		expect([0, 1, 2, 3, 4, 5].map((i) => Math.round(far(at(nodes, 0, 0), at(nodes, i, 0))))).deep.equal([
			0, 1000, 3000, 5000, 7000, 9000
		]);
	});
});

describe('spacing by length and by parameter', () => {
	it('gives the quarter points of an ellipse of axes 2 and 1, 9.688448 around (published; from memory)', () => {
		const ellipse = mapSurface(frustum(1000, 1000, 3000), (p) => [p[0] * 2, p[1], p[2]]);
		const face = chartFace(ellipse);
		expect(face.chart.rowLengths[0]).closeTo(9688.44822054768, 1e-3);
		const { nodes } = setOut(face, settingOutOf(count(8), count(1)));
		expect(far(at(nodes, 2, 0), [0, 1000, 0])).lessThan(0.01);
		expect(far(at(nodes, 4, 0), [-2000, 0, 0])).lessThan(0.01);
	});

	it('differs by parameter on a face whose control points bunch up', () => {
		const width = (measure: 'length' | 'parameter') => {
			const settingOut = settingOutSchema.parse({
				across: { ...directionOf(count(6)), measure },
				up: directionOf(count(1))
			});
			const { nodes } = lay(bunched(), settingOut);
			return far(at(nodes, 0, 0), at(nodes, 1, 0));
		};
		expect(width('length')).closeTo(1000, 0.01);
		// B(1/6) = 3 (1/6)(5/6)^2 100 + 3 (1/6)^2 (5/6) 500 + (1/6)^3 6000
		expect(width('parameter')).closeTo((3 * 25 * 100 + 3 * 5 * 500 + 6000) / 216, 1e-6);
	});
});

describe('the whole grid', () => {
	it('moves the seam of a closed face and stays closed', () => {
		const plain = lay(frustum(4000, 2500, 6000), by(count(24), count(4)));
		const moved = lay(frustum(4000, 2500, 6000), {
			...by(count(24), count(4)),
			across: { ...directionOf(count(24)), seam: 0.25 }
		});
		expect(sound(moved.nodes).euler).equal(0);
		// A quarter of the way around is six of 24 columns.
		for (let j = 0; j <= 4; j++)
			for (let i = 0; i < 24; i++) expect(far(at(moved.nodes, i, j), at(plain.nodes, (i + 6) % 24, j))).lessThan(0.01);
	});

	it('shifts the seam of a closed face by a length', () => {
		const shifted = lay(frustum(3000, 3000, 6000), {
			...by(count(24), count(1)),
			across: { ...directionOf(count(24)), shift: (3000 * Math.PI) / 6 }
		});
		const [x, y] = at(shifted.nodes, 0, 0);
		expect(Math.atan2(y!, x!)).closeTo(Math.PI / 6, 1e-6);
	});

	it('swaps across and up and keeps the outside', () => {
		const plain = lay(wall(3000, 3000), by(count(6), count(2)));
		const swapped = lay(wall(3000, 3000), by(count(6), count(2), { swap: true }));
		expect(swapped.nodes.columns).equal(7);
		expect([...swapped.nodes.normal.subarray(0, 3)].map(Math.round)).deep.equal(
			[...plain.nodes.normal.subarray(0, 3)].map(Math.round)
		);
		// Six divisions are along the height now.
		expect(far(at(swapped.nodes, 0, 0), at(swapped.nodes, 1, 0))).closeTo(500, 1e-6);
	});

	it('counts rows and columns from the edge asked for', () => {
		const settingOut = { ...by(count(3), count(2)), across: { ...directionOf(count(3)), from: 'end' as const } };
		const { nodes } = lay(wall(3000, 3000), settingOut);
		const { cells } = sound(nodes);
		expect([...cells.column]).deep.equal([0, 1, 2, 0, 1, 2]);
		// Column 0 is the right one; its corners still start at the lower left.
		expect(nodes.position[cells.corners[0]! * 3]).closeTo(4000, 1e-6);
	});

	it('evens out a grid that its parameter has bunched, with borders on borders', () => {
		const laid = (fair: number) => {
			const settingOut = {
				...by(count(6), count(6), { fair }),
				across: { ...directionOf(count(6)), measure: 'parameter' as const }
			};
			const { nodes } = lay(bunched(), settingOut);
			const widths = Array.from({ length: 6 }, (_, i) => far(at(nodes, i, 3), at(nodes, i + 1, 3)));
			return { ratio: Math.max(...widths) / Math.min(...widths), nodes };
		};
		const [plain, fair] = [laid(0), laid(100)];
		expect(plain.ratio).greaterThan(5);
		expect(fair.ratio).lessThan(1.1);
		const { us, vs } = fair.nodes;
		for (let k = 0; k <= 6; k++)
			expect([vs[k], vs[42 + k], us[k * 7], us[k * 7 + 6]]).deep.equal([vs[0], vs[42], us[0], us[6]]);
		const level: Spacing = { kind: 'planes', upright: false, bearing: 0, lay: { kind: 'list', at: [1000] } };
		expect(() => lay(wall(3000, 3000), by(count(4), level, { fair: 3 }))).throw('cannot be made fair');
	});

	it('refuses ten million cells in words', () => {
		expect(() => lay(wall(3000, 3000), by({ kind: 'at-most', module: 1 }, { kind: 'at-most', module: 1 }))).throw(
			'6 000 × 3 000 are 18 000 000 cells; the limit is 2 000 000'
		);
	});
});
