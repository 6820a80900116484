import { expect } from 'chai';
import fc from 'fast-check';
import { classOf, histogram } from '../../../src/core/readings/spread.ts';
import { slackOf, snapped } from '../../../src/core/same.ts';
import type { KitInput } from '../../../src/core/kit/schema.ts';
import { kitOf, level, rectangle, run } from './make.ts';
import { placeKit } from '../../../src/core/placement/place.ts';
import { measureCells } from '../../../src/core/readings/measureCells.ts';
import { chartFace } from '../../../src/core/settingout/chartedFace.ts';
import { setOut } from '../../../src/core/settingout/nodes.ts';
import { settingOutOf } from '../../../src/core/settingout/spacing.ts';
import { tileRectangular } from '../../../src/core/tiling/rectangular.ts';
import { count } from '../divide.ts';
import { frustum, hypar } from '../surfaces.ts';
import type { Surface } from '../../../src/core/geometry/surface.ts';

/** Whether a condition holds on a rectangle so wide and high, mm. */
async function holds(condition: string, width: number, height: number): Promise<boolean> {
	const made = await run(
		kitOf([
			{ kind: 'outline', name: 'outline' },
			{
				kind: 'sheet',
				name: 'pane',
				role: 'pane',
				material: 'glass',
				outline: 'outline',
				thickness: 10,
				when: condition
			}
		]),
		rectangle(width, height)
	);
	return made.total('pane', 'pieces') === 1;
}

/** On how many cells of a face a condition holds. */
function heldOn(surface: Surface, across: number, up: number, condition: string): number {
	const { nodes } = setOut(chartFace(surface), settingOutOf(count(across), count(up)));
	const cells = tileRectangular(nodes);
	const kit = kitOf([
		{ kind: 'outline', name: 'outline' },
		{ kind: 'sheet', name: 'pane', role: 'pane', material: 'glass', outline: 'outline', thickness: 10, when: condition }
	]);
	const { placements } = placeKit(
		kit,
		{},
		{ surface, nodes, cells, readings: measureCells(nodes, cells), layer: 0 },
		{ densities: { glass: 2500 } }
	);
	return placements.flatMap((p) => p.parts).reduce((n, part) => n + part.pieces.reduce((a, b) => a + b, 0), 0);
}

type Step = KitInput['steps'][number];

describe('conditions at a threshold', () => {
	it('hold on all cells that measure just that, or on none', () => {
		// A cylinder of 22 cells around whose chords are exactly 3 m: R = 1.5 m / sin(pi / 22).
		const tower = frustum(1500 / Math.sin(Math.PI / 22), 1500 / Math.sin(Math.PI / 22), 9000);
		expect(heldOn(tower, 22, 3, 'width >= 3 m')).equal(66);
		expect(heldOn(tower, 22, 3, 'width > 3 m')).equal(0);
		expect(heldOn(tower, 22, 3, 'width == 3 m and height == 3 m')).equal(66);
		expect(heldOn(tower, 22, 3, 'area >= 9 m^2')).equal(66);
		expect(heldOn(tower, 22, 3, 'area < 9 m^2')).equal(0);
		expect(heldOn(tower, 22, 3, 'floor(width / 1.5 m) == 2')).equal(66);
		expect(heldOn(tower, 22, 3, 'mod(width, 1.5 m) == 0')).equal(66);
		expect(heldOn(tower, 22, 3, 'width / height >= 1')).equal(66);
		// A flat face turned in space by the hypar's corner heights keeps its modules, too.
		expect(heldOn(hypar(0, 21_000 / 7, 18_000), 1, 6, 'area >= 9 m^2')).equal(6);
	});

	it('go by tolerances of lengths, areas, angles and plain numbers (property)', () =>
		fc.assert(
			fc.asyncProperty(
				fc.integer({ min: 100, max: 20_000 }),
				fc.double({ min: -1, max: 1, noNaN: true }),
				async (width, noise) => {
					const off = noise * 0.004;
					for (const [same, apart] of [
						['<=', '<'],
						['>=', '>'],
						['==', '!=']
					] as const) {
						expect(await holds(`width ${same} ${width}`, width + off, 500)).to.be.true;
						expect(await holds(`width ${apart} ${width}`, width + off, 500)).to.be.false;
					}
					expect(await holds(`area >= ${width} * 500 mm * 1 mm`, width + off, 500)).to.be.true;
					expect(await holds(`width > ${width}`, width + 0.02, 500)).to.be.true;
					expect(await holds(`ceil(width / ${width} mm) == 1`, width + off / 1e3, 500)).to.be.true;
				}
			),
			{ numRuns: 30 }
		));

	it('give areas and volumes the tolerance of their sides', () => {
		const [length, area, volume, angle, plain, curvature] = [
			{ length: 1, angle: 0 },
			{ length: 2, angle: 0 },
			{ length: 3, angle: 0 },
			{ length: 0, angle: 1 },
			{ length: 0, angle: 0 },
			{ length: -1, angle: 0 }
		].map(slackOf) as ReturnType<typeof slackOf>[];
		expect(length!(0, 0)).equal(0.01);
		// A square of 1 m whose side is off by 0.01 mm is off by 20 mm2; a cube by 30,000 mm3.
		expect(area!(1e6, 0)).closeTo(20, 1e-9);
		expect(volume!(1e9, 1)).closeTo(30_000, 1e-6);
		expect(area!(0, 0)).equal(0);
		expect(angle!(1, 1)).equal(1e-6);
		expect(plain!(0.5, 0.5)).equal(1e-6);
		expect(plain!(4e6, 1)).closeTo(4, 1e-12);
		expect(curvature!(1e-5, 0)).closeTo(1e-11, 1e-17);
		expect(snapped(2999.996, 1500, 0.01)).equal(3000);
		expect(snapped(2999.9, 1500, 0.01)).equal(2999.9);
	});

	it('part pieces of a length alike, whatever rounding left of it', async () => {
		const kit = kitOf([
			{ kind: 'outline', name: 'outline' },
			{ kind: 'divide', name: 'grid', of: 'outline', by: 'spacing', across: 500, up: 500 },
			{ kind: 'outline', name: 'field', on: 'grid' },
			{ kind: 'sheet', name: 'pane', on: 'grid', role: 'pane', material: 'glass', outline: 'field', thickness: 10 }
		]);
		for (const noise of [-0.005, -1e-7, 0, 1e-7, 0.005])
			expect((await run(kit, rectangle(1500 + noise, 1000 - noise))).total('pane', 'pieces')).equal(6);
		expect((await run(kit, rectangle(1500.1, 1000))).total('pane', 'pieces')).equal(8);
	});

	it('keep like values in one class of a histogram', () => {
		const noise = [0, 4e-13, -4e-13, 2e-13];
		expect([...histogram([noise.map((n) => 3000 + n)], 3000 - 4e-13, 3000 + 4e-13, 8)]).deep.equal([
			4, 0, 0, 0, 0, 0, 0, 0
		]);
		expect(noise.map((n) => classOf(2 + n, 0, 4, 4))).deep.equal([2, 2, 2, 2]);
	});
});

describe('numbers with limits', () => {
	const kit = (least: number | string) =>
		kitOf([
			{ kind: 'outline', name: 'outline' },
			{ kind: 'value', name: 'gap', quantity: 'length', value: 'width - 900 mm', least, greatest: '500 mm' },
			{ kind: 'sheet', name: 'pane', role: 'pane', material: 'glass', outline: 'outline', thickness: 10 }
		]);

	it('fail the hosts on which they are beyond them, and say by which step', async () => {
		expect((await run(kit(100), rectangle(1000, 500))).failures).deep.equal([]);
		expect((await run(kit(100), rectangle(999.9, 500))).failures).deep.equal([
			'gap: “gap” is less than it may be; right would be at least 100.0 mm'
		]);
		expect((await run(kit('0.1 m'), rectangle(1500, 500))).failures).deep.equal([
			'gap: “gap” is more than it may be; right would be at most 500 mm'
		]);
	});
});

describe('holes', () => {
	it('whose sides have crossed are told, whatever plate or sheet they are in', async () => {
		const corner = (name: string, number: number) => ({ kind: 'corner', name, corner: number }) as const;
		const kit = (from: number, to: number) =>
			kitOf(
				[
					{ kind: 'outline', name: 'outline' },
					...[1, 2, 3, 4].map((k) => corner(`c${k}`, k)),
					...(
						[
							['lower', 'c1', 'c2'],
							['upper', 'c4', 'c3'],
							['left', 'c1', 'c4'],
							['right', 'c2', 'c3']
						] as const
					).map(([name, a, b]) => ({ kind: 'line', name, through: [a, b] }) as Step),
					...(
						[
							['a', 'lower', from],
							['b', 'lower', to],
							['c', 'upper', to],
							['d', 'upper', from]
						] as const
					).map(([name, of, at]) => ({ kind: 'along', name, of, at }) as Step),
					{ kind: 'line', name: 'wide', through: ['a', 'b', 'c', 'd'], closed: true },
					{ kind: 'inset', name: 'opening', of: 'wide', by: 'ratio', distance: 0.2 },
					{ kind: 'lift', name: 'hole', of: 'opening', distance: 0 },
					{
						kind: 'plate',
						name: 'plate',
						role: 'panel',
						material: 'steel',
						outline: 'outline',
						thickness: 10,
						holes: ['hole']
					}
				],
				[],
				{ kind: 'cell', leastCorners: 4, greatestCorners: 4 }
			);
		expect((await run(kit(0.2, 0.8), rectangle(1000, 1000))).failures).deep.equal([]);
		expect((await run(kit(0.9, 0.8), rectangle(1000, 1000))).failures).deep.equal([
			'plate: its hole “hole” is turned round: its sides have crossed, or its corners run the other way; right would be sides that do not cross, and corners anticlockwise'
		]);
	});
});

describe('numbers that are none', () => {
	it('never reach a part: a screen of irregular fields with round openings on a face of many cells', async () => {
		for (let seed = 0; seed < 60; seed++) {
			const kit = kitOf([
				{ kind: 'outline', name: 'outline' },
				{
					kind: 'screen',
					name: 'screen',
					role: 'screen',
					material: 'steel',
					outline: 'outline',
					tiles: 'voronoi',
					opening: 'round',
					spacing: 140,
					share: 0.4,
					margin: 40,
					thickness: 4,
					seed
				}
			]);
			const made = await run(kit, rectangle(1500, 1400));
			const { geometry } = made.part('screen');
			expect(geometry.kind === 'plates' && geometry.places.every(Number.isFinite)).to.be.true;
			expect(Number.isFinite(made.total('screen', 'volume'))).to.be.true;
		}
	});

	it('fail the host with the step and a reason where a line leads nowhere', async () => {
		// A bar along a line that turns straight back has no mitre.
		const kit = kitOf([
			{ kind: 'corner', name: 'a', corner: 1 },
			{ kind: 'corner', name: 'b', corner: 2 },
			{ kind: 'line', name: 'back', through: ['a', 'b', 'a'] },
			{ kind: 'bar', name: 'bar', role: 'rod', material: 'steel', line: 'back', width: 20, depth: 20 }
		]);
		const made = await run(kit, rectangle(1000, 1000));
		expect(made.failures).to.have.length(1);
		expect(made.failures[0]).match(/^bar: /);
		expect(made.result.hosts.length).equal(0);
		expect(
			(
				await run(
					kitOf([
						{ kind: 'outline', name: 'o' },
						{ kind: 'round', name: 'r', of: 'o', radius: 0 },
						{ kind: 'bar', name: 'bar', role: 'rod', material: 'steel', line: 'r', width: 20, depth: 20 }
					]),
					level([0, 0], [900, 0], [900, 900], [0, 900])
				)
			)
				.meshes('bar')
				.every((m) => m.positions.every(Number.isFinite))
		).to.be.true;
	});
});
