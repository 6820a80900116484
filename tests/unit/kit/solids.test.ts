import { expect } from 'chai';
import fc from 'fast-check';
import Manifold from 'manifold-3d';
import { meshVolume, type Mesh } from '../../../src/core/kit/mesh.ts';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import type { KitInput } from '../../../src/core/kit/schema.ts';
import { far, kitOf, level, rectangle, run } from './make.ts';

type Step = KitInput['steps'][number];
const outline = { kind: 'outline', name: 'outline' } as const;
const part = { role: 'panel', material: 'ceramic' } as const;

/** A block of 1000 with balls of a radius at its eight corners taken out. */
const hollowed = (radius: number, pieces: number) =>
	kitOf([
		outline,
		{ kind: 'prism', name: 'block', outline: 'outline', height: 1000 },
		...[1, 2, 3, 4].flatMap((k): Step[] => [
			{ kind: 'corner', name: `low${k}`, corner: k },
			{ kind: 'lift', name: `high${k}`, of: `low${k}`, distance: 1000 },
			{ kind: 'ball', name: `lowBall${k}`, at: `low${k}`, radius, pieces },
			{ kind: 'ball', name: `highBall${k}`, at: `high${k}`, radius, pieces }
		]),
		{
			kind: 'combine',
			name: 'body',
			operation: 'difference',
			of: ['block', ...[1, 2, 3, 4].flatMap((k) => [`lowBall${k}`, `highBall${k}`])]
		},
		{ kind: 'solid', name: 'solid', ...part, body: 'body' }
	]);

describe('solids', () => {
	it('take eight corner balls from a block: a^3 - 4/3 pi r^3 by formula, and by the package on its own (manifold-3d)', async () => {
		const made = await run(hollowed(300, 64), rectangle(1000, 1000));
		expect(made.failures).deep.equal([]);
		const byFormula = 1000 ** 3 - (4 / 3) * Math.PI * 300 ** 3;
		expect(made.total('solid', 'volume') / byFormula).closeTo(1, 0.0005);
		const own = await Manifold();
		own.setup();
		const Body = own.Manifold;
		let body = Body.cube([1000, 1000, 1000]);
		for (const x of [0, 1000])
			for (const y of [0, 1000])
				for (const z of [0, 1000]) body = body.subtract(Body.sphere(300, 256).translate([x, y, z]));
		expect(made.total('solid', 'volume') / body.volume()).closeTo(1, 0.002);
		// What is drawn are balls of 64 pieces, half a percent smaller than round ones.
		expect(meshVolume(made.meshes('solid')[0]!) / byFormula).closeTo(1.0006, 0.0004);
	});

	it('join and intersect two boxes to the volumes that plain counting gives', async () => {
		const boxes: Step[] = [
			{ kind: 'corner', name: 'a', corner: 1 },
			{ kind: 'corner', name: 'b', corner: 2 },
			{ kind: 'box', name: 'first', at: 'a', width: 400, height: 400, depth: 400 },
			{ kind: 'box', name: 'second', at: 'b', width: 400, height: 400, depth: 400 }
		];
		const both = (operation: 'union' | 'intersection' | 'difference') =>
			kitOf([
				...boxes,
				{ kind: 'combine', name: 'body', operation, of: ['first', 'second'] },
				{ kind: 'solid', name: 'solid', ...part, body: 'body' }
			]);
		// Centres 100 apart along a side: 300 x 400 x 400 in common.
		const host = level([0, 0], [100, 0], [100, 900], [0, 900]);
		const common = Math.abs(300 * 400 * 400);
		const share = async (operation: Parameters<typeof both>[0], right: number) =>
			expect((await run(both(operation), host)).total('solid', 'volume') / right).closeTo(1, 1e-5);
		await share('intersection', common);
		await share('union', 2 * 400 ** 3 - common);
		await share('difference', 400 ** 3 - common);
		expect((await run(both('intersection'), level([0, 0], [900, 0], [900, 900], [0, 900]))).failures[0]).match(
			/body: nothing is left of the body/
		);
	});

	it('leave no films where bodies end in one plane, however the cell stands (property)', async () => {
		const [length, width] = [1400, 900];
		const pair = (operation: 'union' | 'difference', ...steps: Step[]) =>
			kitOf([
				outline,
				...steps,
				{ kind: 'combine', name: 'body', operation, of: ['a', 'b'] },
				{ kind: 'solid', name: 'solid', ...part, body: 'body' }
			]);
		const inset: Step = { kind: 'inset', name: 'inner', of: 'outline', distance: 100 };
		const [inLength, inWidth] = [length - 200, width - 200];
		// Areas and volumes by hand: a frame cut through, a smaller box standing on a box, a tube.
		const made = [
			{
				kit: pair(
					'difference',
					inset,
					{ kind: 'prism', name: 'a', outline: 'outline', height: 20 },
					{ kind: 'prism', name: 'b', outline: 'inner', height: 20 }
				),
				area: 2 * (length * width - inLength * inWidth) + 40 * (length + width + inLength + inWidth),
				volume: 20 * (length * width - inLength * inWidth)
			},
			{
				kit: pair(
					'union',
					inset,
					{ kind: 'prism', name: 'a', outline: 'outline', height: 200 },
					{ kind: 'lift', name: 'over', of: 'inner', distance: 200 },
					{ kind: 'prism', name: 'b', outline: 'over', height: 100 }
				),
				area: 2 * length * width + 400 * (length + width) + 200 * (inLength + inWidth),
				volume: 200 * length * width + 100 * inLength * inWidth
			},
			{
				kit: pair(
					'difference',
					{ kind: 'side', name: 'line', of: 'outline', side: 1 },
					{ kind: 'cylinder', name: 'a', along: 'line', radius: 79, thickness: 0, pieces: 32 },
					{ kind: 'cylinder', name: 'b', along: 'line', radius: 69, thickness: 0, pieces: 32 }
				),
				area: 2 * Math.PI * ((79 + 69) * length + 79 ** 2 - 69 ** 2),
				volume: Math.PI * (79 ** 2 - 69 ** 2) * length
			}
		];
		const angle = fc.double({ min: 0, max: 6, noNaN: true });
		const far = fc.integer({ min: -50_000, max: 50_000 });
		await fc.assert(
			fc.asyncProperty(
				angle,
				angle,
				far,
				far,
				fc.constantFrom(...made),
				async (a, b, dx, dy, { kit, area, volume }) => {
					const place = ([x, y]: readonly number[]): readonly [number, number, number] => {
						const [u, v] = [x! * Math.cos(a) - y! * Math.sin(a), x! * Math.sin(a) + y! * Math.cos(a)];
						return [u + dx, v * Math.cos(b) + dy, v * Math.sin(b)];
					};
					const corners = [[0, 0], [length, 0], [length, width], [0, width]]; // prettier-ignore
					const body = await run(kit, { kind: 'cell', points: corners.map(place) });
					expect(body.total('solid', 'area') / area).closeTo(1, 1e-4);
					expect(body.total('solid', 'volume') / volume).closeTo(1, 3e-4);
				}
			)
		);
	});

	it('are none between lines of one plane, however it stands', async () => {
		const kit = kitOf([
			outline,
			{ kind: 'inset', name: 'inner', of: 'outline', distance: 100 },
			{ kind: 'loft', name: 'body', through: ['outline', 'inner'] },
			{ kind: 'solid', name: 'solid', ...part, body: 'body' }
		]);
		for (let k = 0; k < 20; k++) {
			const [c, s] = [Math.cos(k), Math.sin(k)];
			const points = [[0, 0], [1300, 0], [1200, 900], [100, 800]].map(([x, y]) => [x! * c - y! * s, x! * s + y! * c, 0.3 * y!] as const); // prettier-ignore
			expect((await run(kit, { kind: 'cell', points })).failures).deep.equal([
				'solid: the body has no volume or is turned inside out; right would be lines that lie apart and run around the same way'
			]);
		}
	});

	it('fit a unit grid into a box by the trilinear map exactly', async () => {
		// Points of a 4 x 4 x 4 grid; the triangles do not matter here.
		const grid = Array.from({ length: 64 }, (_, k) => [
			(k % 4) / 3,
			(Math.floor(k / 4) % 4) / 3,
			Math.floor(k / 16) / 3
		]);
		const mesh: Mesh = { positions: Float64Array.from(grid.flat()), triangles: Uint32Array.of(0, 1, 4, 0, 16, 1) };
		const kit = kitOf(
			[
				outline,
				{ kind: 'outline', name: 'over', layer: 'upper' },
				{ kind: 'module', name: 'fitted', ...part, file: 'grid', lower: 'outline', upper: 'over' }
			],
			[],
			{ kind: 'box', leastCorners: 4, greatestCorners: 4 }
		);
		const points = [
			[0, 0, 0],
			[1100, 0, 80],
			[1200, 900, 0],
			[-50, 1000, 60],
			[30, 20, 400],
			[1000, 50, 500],
			[1100, 950, 420],
			[0, 900, 380]
		] as const;
		const made = await run(kit, { kind: 'box', points }, {}, { modules: new Map([['grid', mesh]]) });
		const [fitted] = made.meshes('fitted');
		grid.forEach(([x, y, z], k) => {
			// P = sum of w_i P_i with the weights of the unit cube's corners, written out.
			const weight = (i: number) =>
				[(1 - x!) * (1 - y!), x! * (1 - y!), x! * y!, (1 - x!) * y!][i % 4]! * (i < 4 ? 1 - z! : z!);
			const expected = [0, 1, 2].map((c) => points.reduce((sum, p, i) => sum + weight(i) * p[c]!, 0));
			expect(far([...fitted!.positions.subarray(k * 3, k * 3 + 3)], expected)).closeTo(0, 1e-9);
		});
	});

	it('turn, mirror and flip a module within its box without turning it inside out', async () => {
		const kit = (more: object) =>
			kitOf([
				outline,
				{ kind: 'lift', name: 'upper', of: 'outline', distance: 400 },
				{ kind: 'mould', name: 'form', width: 1, height: 1, depth: 1 },
				{ kind: 'outline', name: 'base', on: 'form' },
				{ kind: 'inset', name: 'foot', on: 'form', of: 'base', by: 'ratio', distance: 0.5 },
				{ kind: 'lift', name: 'top', on: 'form', of: 'foot', distance: 1 },
				{ kind: 'loft', name: 'body', on: 'form', through: ['base', 'top'] },
				{
					kind: 'module',
					name: 'module',
					...part,
					mould: 'form',
					body: 'body',
					lower: 'outline',
					upper: 'upper',
					...more
				} as Step
			]);
		const host = rectangle(1000, 1000);
		// A frustum of a pyramid: h / 3 (A1 + A2 + sqrt(A1 A2)), handbook.
		const volume = (400 / 3) * (1e6 + 25e4 + 5e5);
		for (const more of [{}, { turns: 1 }, { mirror: true }, { flip: true }, { mirror: true, flip: true, turns: 3 }]) {
			const made = await run(kit(more), host);
			expect(meshVolume(made.meshes('module')[0]!), JSON.stringify(more)).closeTo(volume, 1);
		}
	});

	it('make a mould once for each set of values', async () => {
		const kit = STARTER_KITS.find((k) => k.id === 'hollowed-block')!;
		const first = await run(kit, rectangle(1500, 1500));
		const deeper = await run(kit, rectangle(900, 1500), { cornerBall: 0.2 });
		expect(first.total('body', 'pieces')).equal(1);
		expect(deeper.total('body', 'volume') / (880 * 1480 * 300)).greaterThan(
			first.total('body', 'volume') / (1480 * 1480 * 300)
		);
	});

	it('say that a body of a mould is missing', async () => {
		const kit = kitOf([
			outline,
			{ kind: 'lift', name: 'upper', of: 'outline', distance: 400 },
			{ kind: 'mould', name: 'form', width: 1, height: 1, depth: 1 },
			{ kind: 'module', name: 'module', ...part, mould: 'form', body: 'bodi', lower: 'outline', upper: 'upper' }
		]);
		let message = '';
		await run(kit, rectangle(500, 500)).catch((cause: Error) => (message = cause.message));
		expect(message).match(/Step “module”.*no body “bodi” on the mould “form”; known there: none/);
	});
});
