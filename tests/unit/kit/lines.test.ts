import { expect } from 'chai';
import fc from 'fast-check';
import { compileKit } from '../../../src/core/kit/compileKit.ts';
import { evaluateKit } from '../../../src/core/kit/evaluate.ts';
import { trialColumns } from '../../../src/core/kit/trialHosts.ts';
import { far, kitOf, level, Made, rectangle, regular, run } from './make.ts';

const outline = { kind: 'outline', name: 'outline' } as const;

describe('points and lines of kits', () => {
	it('meet at t on one edge and 1 - t on the opposite one, since the corners run around the cell (practice)', async () => {
		const kit = kitOf(
			[
				outline,
				{ kind: 'side', name: 'lower', of: 'outline', side: 1 },
				{ kind: 'side', name: 'upper', of: 'outline', side: 3 },
				{ kind: 'along', name: 'a', of: 'lower', at: 't' },
				{ kind: 'along', name: 'b', of: 'upper', at: '1 - t' }
			],
			[{ quantity: 'ratio', name: 't', label: 'T', default: 0.3, least: 0, greatest: 1 }]
		);
		const made = await run(kit, rectangle(1000, 800));
		expect(made.line('a')[0]).deep.equal([300, 0, 0]);
		expect(made.line('b')[0]).deep.equal([300, 800, 0]);
	});

	it('centre a rod of 200 by setting both ends back by (span - 200) / 2, in spacings of at most 250 (practice)', async () => {
		const kit = kitOf(
			[
				outline,
				{ kind: 'repeat', name: 'bays', of: 'outline', by: 'spacing', amount: 250 },
				{ kind: 'outline', name: 'span', on: 'bays' },
				{ kind: 'fixed', name: 'rod', on: 'bays', of: 'span', length: 200 },
				{
					kind: 'bar',
					name: 'bar',
					on: 'bays',
					role: 'rod',
					material: 'steel',
					line: 'rod',
					profile: 'round',
					width: 20
				}
			],
			[],
			{ kind: 'path' }
		);
		const made = await run(kit, {
			kind: 'path',
			points: [
				[0, 0, 0],
				[600, 0, 0],
				[1120, 0, 0]
			]
		});
		// 1120 / 250 is above 4, so that 5 bays of 224 each carry a rod 12 from both ends.
		expect(made.total('bar', 'pieces')).equal(5);
		const starts = made.meshes('bar').map((m) => Math.min(...[...m.positions].filter((_, k) => k % 3 === 0)));
		starts.forEach((x, k) => expect(x).closeTo(k * 224 + (224 - 200) / 2, 1e-9));
		expect(made.total('bar', 'length')).closeTo(5 * 200, 1e-9);
	});

	it('run arcs on the circle through three points, and smooth lines through all their points', async () => {
		const kit = kitOf([
			{ kind: 'corner', name: 'a', corner: 1 },
			{ kind: 'corner', name: 'b', corner: 2 },
			{ kind: 'corner', name: 'c', corner: 3 },
			{ kind: 'line', name: 'arc', through: ['a', 'b', 'c'], shape: 'arc', pieces: 12 },
			{ kind: 'line', name: 'smooth', through: ['a', 'b', 'c'], shape: 'smooth', pieces: 5 },
			{ kind: 'line', name: 'ring', through: ['a', 'b', 'c'], shape: 'smooth', closed: true, pieces: 5 }
		]);
		const made = await run(kit, regular(8, 500));
		for (const p of made.line('arc')) expect(Math.hypot(...p)).closeTo(500, 1e-9);
		const corners = ['a', 'b', 'c'].map((n) => made.line(n)[0]!);
		corners.forEach((p, k) => {
			expect(far(made.line('smooth')[k * 5]!, p)).closeTo(0, 1e-9);
			expect(far(made.line('ring')[k * 5]!, p)).closeTo(0, 1e-9);
		});
	});

	it('find the crossing of two lines, and by how much they miss', async () => {
		const kit = kitOf([
			...[1, 2, 3, 4].map((k) => ({ kind: 'corner', name: `c${k}`, corner: k }) as const),
			{ kind: 'line', name: 'p', through: ['c1', 'c3'] },
			{ kind: 'line', name: 'q', through: ['c2', 'c4'] },
			{ kind: 'crossing', name: 'x', first: 'p', second: 'q' },
			{ kind: 'value', name: 'missed', quantity: 'length', value: 'miss(x)' }
		]);
		const flat = await run(kit, rectangle(800, 600));
		expect(far(flat.line('x')[0]!, [400, 300, 0])).closeTo(0, 1e-9);
		expect(flat.value('missed')).closeTo(0, 1e-9);
		// The middle cell a x b of z = kxy has its diagonals k a b / 2 apart; so has this one, with k = 2 / 10^4 (follows from the definition).
		const k = 2e-4;
		const [a, b] = [800, 600];
		const warped = await run(
			kit,
			level(
				...(
					[
						[-1, -1],
						[1, -1],
						[1, 1],
						[-1, 1]
					] as const
				).map(([s, t]) => [(s * a) / 2, (t * b) / 2, (k * s * t * a * b) / 4] as const)
			)
		);
		expect(warped.value('missed')).closeTo((k * a * b) / 2, 1e-9);
	});

	it('find none between a side and what is left of it, wherever it stands, and one between lines that hardly part', async () => {
		const along = kitOf([
			{ kind: 'outline', name: 'o' },
			{ kind: 'side', name: 's', of: 'o', side: 1 },
			{ kind: 'cut', name: 'c', of: 's', start: 31, end: 47 },
			{ kind: 'crossing', name: 'x', first: 's', second: 'c' }
		]);
		for (let k = 0; k < 50; k++) {
			const [c, s] = [Math.cos(k), Math.sin(k)];
			const [x, y] = [1234.5 * k, -678.9 * k];
			const cell = level([x, y], [x + 811 * c, y + 811 * s, 77], [x + 300 * c - 700 * s, y + 300 * s + 700 * c]);
			expect((await run(along, cell)).failures).deep.equal(['x: “s” and “c” run parallel and do not cross']);
		}
		const narrow = kitOf([
			...[1, 2, 3].map((k) => ({ kind: 'corner', name: `c${k}`, corner: k }) as const),
			{ kind: 'line', name: 'p', through: ['c1', 'c2'] },
			{ kind: 'line', name: 'q', through: ['c1', 'c3'] },
			{ kind: 'crossing', name: 'x', first: 'p', second: 'q' }
		]);
		const made = await run(narrow, level([5000, 3000], [6000, 3000], [6000, 3000.01]));
		expect(far(made.line('x')[0]!, [5000, 3000, 0])).lessThan(1e-5);
	});

	it('round the corners of a square with the area that plain geometry gives', async () => {
		const kit = kitOf([
			outline,
			{ kind: 'round', name: 'rounded', of: 'outline', radius: 200, pieces: 32 },
			{ kind: 'sheet', name: 'pane', role: 'pane', material: 'glass', outline: 'rounded', thickness: 1 }
		]);
		const made = await run(kit, rectangle(1000, 1000));
		// A square loses (4 - pi) r^2 at its corners; chords of 32 pieces cut off a little more.
		expect(made.total('pane', 'area') / (1e6 - (4 - Math.PI) * 200 ** 2)).closeTo(1, 1e-4);
		expect((await run(kit, rectangle(1000, 300))).failures[0]).match(/rounded: the arcs are longer than the sides/);
	});

	it('keep open lines moved sideways at their distance, and cut lines at their length', async () => {
		const kit = kitOf(
			[
				outline,
				{ kind: 'inset', name: 'beside', of: 'outline', distance: 40 },
				{ kind: 'cut', name: 'short', of: 'outline', start: 100, end: 50 },
				{ kind: 'value', name: 'left', quantity: 'length', value: 'length(short)' },
				{ kind: 'value', name: 'whole', quantity: 'length', value: 'length(outline)' }
			],
			[],
			{ kind: 'path' }
		);
		const made = await run(kit, {
			kind: 'path',
			points: [
				[0, 0, 0],
				[500, 0, 300],
				[900, 0, 100]
			]
		});
		const [p, q] = [made.line('outline'), made.line('beside')];
		const direction = p[1]!.map((x, c) => x - p[0]![c]!);
		const size = Math.hypot(...direction);
		for (const moved of [q[0]!, q[1]!]) {
			const w = moved.map((x, c) => x - p[0]![c]!);
			const along = w.reduce((s, x, c) => s + (x * direction[c]!) / size, 0);
			expect(Math.sqrt(Math.max(0, Math.hypot(...w) ** 2 - along ** 2))).closeTo(40, 1e-6);
		}
		expect(made.value('left')).closeTo(made.value('whole') - 150, 1e-9);
	});

	it('lift a corner along its own normal, which a face gives it', async () => {
		const kit = kitOf([
			{ kind: 'corner', name: 'c', corner: 2 },
			{ kind: 'lift', name: 'up', of: 'c', distance: 50, towards: 'corners' },
			{ kind: 'outline', name: 'outline' },
			{ kind: 'lift', name: 'over', of: 'outline', distance: 50, towards: 'corners' }
		]);
		const hosts = {
			...trialColumns(rectangle(1000, 1000)),
			pointNormal: Float64Array.from([0, 0, 1, 0.6, 0, 0.8, 0, 0, 1, 0, 1, 0])
		};
		const made = new Made(evaluateKit(compileKit(kit, { kind: 'cell', corners: 4 }), {}, hosts));
		expect(far(made.line('up')[0]!, [1030, 0, 40])).closeTo(0, 1e-9);
		expect(far(made.line('over')[1]!, [1030, 0, 40])).closeTo(0, 1e-9);
		expect(far(made.line('over')[3]!, [0, 1050, 0])).closeTo(0, 1e-9);
	});

	it('divide a cell so that the fields add up, and every other one carries a part', async () => {
		const kit = kitOf([
			outline,
			{ kind: 'divide', name: 'grid', of: 'outline', across: 4, up: 3 },
			{ kind: 'outline', name: 'field', on: 'grid' },
			{ kind: 'sheet', name: 'all', on: 'grid', role: 'panel', material: 'aluminium', outline: 'field', thickness: 2 },
			{
				kind: 'sheet',
				name: 'half',
				on: 'grid',
				when: 'mod(i + j, 2) == 0',
				role: 'panel',
				material: 'aluminium',
				outline: 'field',
				thickness: 2
			}
		]);
		await fc.assert(
			fc.asyncProperty(
				fc.double({ min: 300, max: 3000, noNaN: true }),
				fc.double({ min: 300, max: 3000, noNaN: true }),
				async (w, h) => {
					const made = await run(kit, rectangle(w, h));
					expect(made.total('all', 'area') / (w * h)).closeTo(1, 1e-9);
					expect(made.total('half', 'area') / (w * h)).closeTo(0.5, 1e-9);
					expect(made.total('half', 'pieces')).equal(6);
				}
			),
			{ numRuns: 20 }
		);
	});

	it('leave out what takes from a step whose condition does not hold', async () => {
		const kit = kitOf([
			outline,
			{ kind: 'inset', name: 'inner', of: 'outline', distance: 50, when: 'area > 1 m^2' },
			{ kind: 'sheet', name: 'small', role: 'panel', material: 'aluminium', outline: 'inner', thickness: 2 },
			{ kind: 'sheet', name: 'large', role: 'panel', material: 'aluminium', outline: 'outline', thickness: 2 }
		]);
		expect((await run(kit, rectangle(2000, 1000))).total('small', 'pieces')).equal(1);
		const made = await run(kit, rectangle(90, 90));
		expect(made.failures).deep.equal([]);
		expect([made.total('small', 'pieces'), made.total('large', 'pieces')]).deep.equal([0, 1]);
	});
});
