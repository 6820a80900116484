import { expect } from 'chai';
import fc from 'fast-check';
import { meshVolume } from '../../../src/core/kit/mesh.ts';
import type { KitInput } from '../../../src/core/kit/schema.ts';
import { kitOf, level, rectangle, regular, run } from './make.ts';

type Step = KitInput['steps'][number];
const part = { role: 'panel', material: 'steel' } as const;
const outline: Step = { kind: 'outline', name: 'outline' };
const solid = (body: string): Step => ({ kind: 'solid', name: 'solid', ...part, body });
/** Pi is not in our hands, nor are these formulas: any handbook of mathematics. */
const { PI } = Math;

describe('round bodies are measured as what they mean', () => {
	it('balls: 4/3 pi r^3 and 4 pi r^2, however many pieces draw them', () =>
		fc.assert(
			fc.asyncProperty(fc.integer({ min: 6, max: 96 }), fc.integer({ min: 1, max: 900 }), async (pieces, radius) => {
				const made = await run(
					kitOf([
						{ kind: 'corner', name: 'at', corner: 1 },
						{ kind: 'ball', name: 'body', at: 'at', radius, pieces },
						solid('body')
					]),
					rectangle(1000, 1000)
				);
				expect(made.total('solid', 'volume') / ((4 / 3) * PI * radius ** 3)).closeTo(1, 1e-12);
				expect(made.total('solid', 'area') / (4 * PI * radius ** 2)).closeTo(1, 1e-12);
			}),
			{ numRuns: 20 }
		));

	it('discs and cylinders: pi r^2 h, with both ends', async () => {
		const disc = await run(
			kitOf([
				{ kind: 'corner', name: 'at', corner: 1 },
				{ kind: 'cylinder', name: 'body', along: 'at', radius: 70, thickness: 12, pieces: 16 },
				solid('body')
			]),
			rectangle(1000, 1000)
		);
		expect(disc.total('solid', 'volume')).closeTo(PI * 70 ** 2 * 12, 1e-6);
		expect(disc.total('solid', 'area')).closeTo(2 * PI * 70 * (70 + 12), 1e-6);
		const rod = await run(
			kitOf(
				[
					outline,
					{ kind: 'cylinder', name: 'body', along: 'outline', radius: 20, thickness: 1, pieces: 8 },
					solid('body')
				],
				[],
				{ kind: 'edge' }
			),
			{
				kind: 'edge',
				points: [
					[0, 0, 0],
					[600, 0, 800]
				]
			}
		);
		expect(rod.total('solid', 'volume')).closeTo(PI * 400 * 1000, 1e-4);
	});

	it('a block less balls at its corners and in its middle, drawn coarsely', async () => {
		const corners = ['lower', 'upper'].flatMap((side, s) =>
			[1, 2, 3, 4].flatMap((k): Step[] => [
				{ kind: 'corner', name: `${side}At${k}`, corner: k },
				{ kind: 'lift', name: `${side}${k}`, of: `${side}At${k}`, distance: s * 1000 },
				{ kind: 'ball', name: `${side}Ball${k}`, at: `${side}${k}`, radius: 250, pieces: 8 }
			])
		);
		const made = await run(
			kitOf([
				outline,
				{ kind: 'prism', name: 'block', outline: 'outline', height: 1000 },
				...corners,
				{ kind: 'middle', name: 'heart', of: ['lower1', 'upper3'] },
				{ kind: 'ball', name: 'heartBall', at: 'heart', radius: 400, pieces: 10 },
				{
					kind: 'combine',
					name: 'body',
					operation: 'difference',
					of: ['block', ...['lower', 'upper'].flatMap((s) => [1, 2, 3, 4].map((k) => `${s}Ball${k}`)), 'heartBall']
				},
				solid('body')
			]),
			rectangle(1000, 1000)
		);
		const right = 1e9 - (4 / 3) * PI * (250 ** 3 + 400 ** 3);
		expect(made.total('solid', 'volume') / right).closeTo(1, 0.001);
		// What draws it is far off.
		expect(meshVolume(made.meshes('solid')[0]!) / right).greaterThan(1.02);
	});

	it('a ball cut by a plane: the cap pi h^2 (3 r - h) / 3, within a thousandth', () =>
		fc.assert(
			fc.asyncProperty(fc.integer({ min: 20, max: 90 }), async (share) => {
				const [r, h] = [300, (600 * share) / 100];
				// The prism begins at the plane z = r - h above the ball's middle.
				const made = await run(
					kitOf([
						outline,
						{ kind: 'corner', name: 'one', corner: 1 },
						{ kind: 'corner', name: 'three', corner: 3 },
						{ kind: 'middle', name: 'at', of: ['one', 'three'] },
						{ kind: 'lift', name: 'low', of: 'outline', distance: r - h },
						{ kind: 'prism', name: 'half', outline: 'low', height: 2000 },
						{ kind: 'ball', name: 'ball', at: 'at', radius: r, pieces: 12 },
						{ kind: 'combine', name: 'body', operation: 'intersection', of: ['ball', 'half'] },
						solid('body')
					]),
					rectangle(2000, 2000)
				);
				expect(made.total('solid', 'volume') / ((PI * h * h * (3 * r - h)) / 3)).closeTo(1, 0.001);
			}),
			{ numRuns: 12 }
		));

	it('a ball in a mould, fitted into a box: an ellipsoid 4/3 pi a b c', async () => {
		const kit = kitOf(
			[
				{ kind: 'outline', name: 'lower' },
				{ kind: 'lift', name: 'upper', of: 'lower', distance: 600 },
				{ kind: 'mould', name: 'mould', width: 1000, height: 1000, depth: 1000 },
				{ kind: 'corner', name: 'a', on: 'mould', corner: 1 },
				{ kind: 'corner', name: 'b', on: 'mould', corner: 3, layer: 'upper' },
				{ kind: 'middle', name: 'heart', on: 'mould', of: ['a', 'b'] },
				{ kind: 'ball', name: 'ball', on: 'mould', at: 'heart', radius: 400, pieces: 12 },
				{ kind: 'module', name: 'solid', ...part, mould: 'mould', body: 'ball', lower: 'lower', upper: 'upper' }
			],
			[],
			{ kind: 'cell', leastCorners: 4, greatestCorners: 4 }
		);
		const made = await run(kit, rectangle(1500, 1000));
		expect(made.total('solid', 'volume') / ((4 / 3) * PI * (0.4 * 1500) * (0.4 * 1000) * (0.4 * 600))).closeTo(1, 1e-4);
	});
});

describe('curved lines are measured as the curves they mean', () => {
	const arcKit = (pieces: number, more: Step[]) =>
		kitOf([
			{ kind: 'corner', name: 'c1', corner: 1 },
			{ kind: 'corner', name: 'c2', corner: 2 },
			{ kind: 'corner', name: 'c3', corner: 3 },
			{ kind: 'line', name: 'arc', through: ['c1', 'c2', 'c3'], shape: 'arc', pieces },
			...more
		]);
	// Three points on a half circle of radius 1000.
	const half = level([1000, 0], [0, 1000], [-1000, 0]);

	it('a round bar along half a circle: section times pi R, and at its middle where it is moved outwards', async () => {
		for (const pieces of [2, 8, 24]) {
			const made = await run(
				arcKit(pieces, [
					{ kind: 'bar', name: 'bar', ...part, line: 'arc', profile: 'round', width: 60 },
					{ kind: 'bar', name: 'inner', ...part, line: 'arc', width: 40, depth: 20, across: 200 },
					{ kind: 'value', name: 'run', quantity: 'length', value: 'length(arc)' }
				]),
				half
			);
			expect(made.total('bar', 'length')).closeTo(PI * 1000, 1e-6);
			expect(made.value('run')).closeTo(PI * 1000, 1e-6);
			expect(made.total('bar', 'volume') / (PI * 30 ** 2 * PI * 1000)).closeTo(1, 1e-9);
			// Anticlockwise, its left is the inside: pi (R - 200). Source: Pappus, volume = section x path of its centroid.
			expect(made.total('inner', 'volume') / (40 * 20 * PI * 800)).closeTo(1, 1e-9);
		}
	});

	it('a prism over half a disc, a plate and a sheet: pi R^2 / 2', async () => {
		const made = await run(
			arcKit(6, [
				{ kind: 'line', name: 'ring', through: ['arc'], closed: true },
				{ kind: 'prism', name: 'body', outline: 'ring', height: 100 },
				solid('body'),
				{ kind: 'plate', name: 'plate', ...part, outline: 'ring', thickness: 10 },
				{ kind: 'sheet', name: 'sheet', ...part, outline: 'ring', thickness: 10 }
			]),
			half
		);
		const right = (PI * 1000 ** 2) / 2;
		expect(made.total('solid', 'volume') / (right * 100)).closeTo(1, 2e-4);
		expect(made.total('plate', 'volume') / (right * 10)).closeTo(1, 2e-4);
		expect(made.total('plate', 'area') / right).closeTo(1, 2e-4);
		expect(made.total('sheet', 'area') / right).closeTo(1, 2e-4);
	});

	it('rounded corners: the square less (4 - pi) r^2, around it the sides less 8 r and a circle', () =>
		fc.assert(
			fc.asyncProperty(fc.integer({ min: 1, max: 12 }), fc.integer({ min: 5, max: 480 }), async (pieces, r) => {
				const made = await run(
					kitOf([
						outline,
						{ kind: 'round', name: 'soft', of: 'outline', radius: r, pieces },
						{ kind: 'plate', name: 'plate', ...part, outline: 'soft', thickness: 10 },
						{ kind: 'bar', name: 'bar', ...part, line: 'soft', profile: 'round', width: 4 }
					]),
					rectangle(1000, 1000)
				);
				expect(made.total('plate', 'area') / (1e6 - (4 - PI) * r * r)).closeTo(1, 1e-12);
				expect(made.total('bar', 'length') / (4 * (1000 - 2 * r) + 2 * PI * r)).closeTo(1, 1e-9);
				expect(made.total('bar', 'volume') / (PI * 4 * (4 * (1000 - 2 * r) + 2 * PI * r))).closeTo(1, 1e-4);
			}),
			{ numRuns: 25 }
		));

	it('a round hole in a plate, and a smooth closed line through the corners of a regular polygon', async () => {
		const made = await run(
			kitOf([
				outline,
				{ kind: 'inset', name: 'inner', of: 'outline', distance: 400 },
				{ kind: 'line', name: 'hole', through: ['inner'], closed: true, shape: 'smooth', pieces: 4 },
				{ kind: 'plate', name: 'plate', ...part, outline: 'outline', thickness: 10, holes: ['hole'] }
			]),
			regular(24, 1000)
		);
		const polygon = (n: number, r: number) => (n / 2) * r * r * Math.sin((2 * PI) / n);
		const apothem = Math.cos(PI / 24);
		const inner = (1000 * apothem - 400) / apothem;
		// The smooth line stays within some thousandths of the circle through its points.
		expect(made.total('plate', 'area') / (polygon(24, 1000) - PI * inner * inner)).closeTo(1, 2e-4);
	});

	it('a mitred frame beside its line weighs what lies between two rings', () =>
		fc.assert(
			fc.asyncProperty(fc.integer({ min: 3, max: 9 }), fc.integer({ min: -150, max: 150 }), async (n, across) => {
				const made = await run(
					kitOf([
						outline,
						{
							kind: 'bar',
							name: 'bar',
							...part,
							line: 'outline',
							profile: 'tee',
							width: 60,
							depth: 80,
							wall: 8,
							across
						}
					]),
					regular(n, 1000)
				);
				expect(made.total('bar', 'volume') / meshVolume(made.meshes('bar')[0]!)).closeTo(1, 1e-9);
			})
		));
});
