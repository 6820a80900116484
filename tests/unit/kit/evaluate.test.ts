import { expect } from 'chai';
import fc from 'fast-check';
import { compileKit } from '../../../src/core/kit/compileKit.ts';
import { evaluateKit } from '../../../src/core/kit/evaluate.ts';
import type { Kit } from '../../../src/core/kit/schema.ts';
import { FLAT_PANE, FRAMED_PANE } from '../../../src/core/kit/starters/index.ts';
import { settleValues } from '../../../src/core/kit/values.ts';
import { trialColumns } from '../../../src/core/kit/trialHosts.ts';
import { measureCells } from '../../../src/core/readings/measureCells.ts';

type Corner = readonly [number, number, number];
const cell = (corners: number) => ({ kind: 'cell', corners }) as const;

const regular = (n: number, radius: number): Corner[] =>
	Array.from({ length: n }, (_, k) => {
		const angle = (2 * Math.PI * k) / n;
		return [radius * Math.cos(angle), radius * Math.sin(angle), 0];
	});

function build(kit: Kit, values: Record<string, number>, corners: readonly Corner[]) {
	const result = evaluateKit(
		compileKit(kit, cell(corners.length)),
		settleValues(kit, values).values,
		trialColumns({ kind: 'cell', points: corners })
	);
	const area = (name: string) => result.parts.find((p) => p.step.name === name)!.area[0]!;
	const length = (name: string) => result.parts.find((p) => p.step.name === name)!.length[0]!;
	return { result, area, length };
}

describe('the kit evaluator', () => {
	it('insets squares, triangles and regular hexagons to the area that plain geometry gives', () => {
		// A regular n-gon with apothem a has the area n a^2 tan(pi / n); an inset by d leaves a - d.
		for (const n of [3, 4, 6, 9]) {
			const radius = 1000;
			const apothem = radius * Math.cos(Math.PI / n);
			const { area } = build(FLAT_PANE, { joint: 40 }, regular(n, radius));
			const left = n * (apothem - 40) ** 2 * Math.tan(Math.PI / n);
			expect(area('pane') / left).closeTo(1, 1e-12);
		}
	});

	it('builds the framed pane: ring, reveal and pane of a 2000 x 1000 cell', () => {
		const rectangle: Corner[] = [
			[0, 0, 0],
			[2000, 0, 0],
			[2000, 1000, 0],
			[0, 1000, 0]
		];
		const { result, area, length } = build(FRAMED_PANE, { frameWidth: 100, recess: 150 }, rectangle);
		expect(area('frame')).closeTo(2000 * 1000 - 1800 * 800, 1e-6);
		expect(area('reveal')).closeTo(2 * (1800 + 800) * 150, 1e-6);
		expect(area('pane')).closeTo(1800 * 800, 1e-6);
		expect(length('frame')).closeTo(6000, 1e-9);
		expect(length('reveal')).closeTo(5200, 1e-9);
		// 18 triangles over 12 points: outline, inner, sunk; the pane lies 150 behind.
		expect(
			result.parts.reduce((n, p) => n + (p.geometry.kind === 'pattern' ? p.geometry.triangles.length / 3 : 0), 0)
		).equal(18);
		expect(result.points.length).equal(12 * 3);
		expect([...result.points.subarray(24, 27)].map((x) => Math.round(x))).deep.equal([100, 100, -150]);
	});

	it('keeps the inset at its distance from both edges at every corner of warped cells', () => {
		const noise = fc.double({ min: -250, max: 250, noNaN: true });
		fc.assert(
			fc.property(fc.array(noise, { minLength: 12, maxLength: 12 }), (d) => {
				const base = [
					[0, 0, 0],
					[1500, 0, 0],
					[1500, 1500, 0],
					[0, 1500, 0]
				];
				const corners = base.map((p, k) => p.map((x, c) => x + d[k * 3 + c]!) as unknown as Corner);
				const { result } = build(FRAMED_PANE, { frameWidth: 60 }, corners);
				expect(result.hosts.length).equal(1);
				const at = (k: number) => [...result.points.subarray(k * 3, k * 3 + 3)];
				for (let k = 0; k < 4; k++)
					for (const other of [(k + 1) % 4, (k + 3) % 4])
						expect(distanceToLine(at(4 + k), at(k), at(other))).closeTo(60, 1e-6);
			})
		);
	});

	it('fits concave cells: the inset of an L keeps its turn', () => {
		const ell: Corner[] = [
			[0, 0, 0],
			[2000, 0, 0],
			[2000, 1000, 0],
			[1000, 1000, 0],
			[1000, 2000, 0],
			[0, 2000, 0]
		];
		const { result } = build(FLAT_PANE, { joint: 100 }, ell);
		const at = (k: number) => [...result.points.subarray((6 + k) * 3, (6 + k) * 3 + 2)].map(Math.round);
		expect([0, 1, 2, 3, 4, 5].map(at)).deep.equal([
			[100, 100],
			[1900, 100],
			[1900, 900],
			[900, 900],
			[900, 1900],
			[100, 1900]
		]);
	});

	it('leaves out hosts that the frame swallows, names the step and keeps the others', () => {
		const cells: Corner[][] = [
			[
				[0, 0, 0],
				[1000, 0, 0],
				[1000, 1000, 0],
				[0, 1000, 0]
			],
			[
				[0, 0, 0],
				[1000, 0, 0],
				[1000, 150, 0],
				[0, 150, 0]
			],
			[
				[0, 0, 0],
				[900, 0, 0],
				[900, 900, 0],
				[0, 900, 0]
			]
		];
		const position = Float64Array.from(cells.flat(2));
		const table = {
			count: 3,
			cornerStart: Uint32Array.of(0, 4, 8, 12),
			corners: Uint32Array.from({ length: 12 }, (_, k) => k),
			row: new Uint32Array(3),
			column: Uint32Array.of(0, 1, 2),
			edgeCount: 0,
			edgeNodes: new Uint32Array(),
			edgeCells: new Int32Array()
		};
		const { normal } = measureCells({ position }, table);
		const result = evaluateKit(compileKit(FRAMED_PANE, cell(4)), settleValues(FRAMED_PANE, {}).values, {
			ids: Uint32Array.of(0, 1, 2),
			cornerStart: table.cornerStart,
			corners: table.corners,
			position,
			normal,
			reading: () => undefined
		});
		expect([...result.hosts]).deep.equal([0, 2]);
		expect(result.failures.map((f) => [f.step, [...f.hosts]])).deep.equal([['inner', [1]]]);
		expect(result.failures[0]!.reason).match(/nothing is left inside/);
		// The third cell's points have moved up to the second place.
		expect(result.points.length).equal(2 * 12 * 3);
		expect(result.points[12 * 3 + 3]).equal(900);
	});

	it('fails on cells of no size instead of making points that are no numbers', () => {
		const degenerate: Record<string, Corner[]> = {
			coincident: [
				[5, 5, 5],
				[5, 5, 5],
				[5, 5, 5],
				[5, 5, 5]
			],
			collinear: [
				[0, 0, 0],
				[500, 0, 0],
				[1000, 0, 0],
				[1500, 0, 0]
			],
			'no numbers': [
				[NaN, 0, 0],
				[1, 0, 0],
				[1, 1, 0],
				[0, 1, 0]
			]
		};
		for (const [name, corners] of Object.entries(degenerate)) {
			const { result } = build(FRAMED_PANE, {}, corners);
			expect(result.hosts.length, name).equal(0);
			expect(
				result.failures.map((f) => f.step),
				name
			).deep.equal(['outline']);
		}
	});
});

describe('compiling a kit', () => {
	const changed = (change: (kit: Kit) => void) => {
		const kit = structuredClone(FRAMED_PANE);
		change(kit);
		return () => compileKit(kit, cell(4));
	};
	for (const [what, change, words] of [
		[
			'an unknown line',
			(k) => Object.assign(k.steps[1]!, { of: 'rim' }),
			/Step “inner”.*no line or point “rim”; known here: outline/
		],
		[
			'an unknown parameter',
			(k) => Object.assign(k.steps[1]!, { distance: 'widht' }),
			/Step “inner”.*no “widht”.*known here/
		],
		['a repeated name', (k) => Object.assign(k.steps[2]!, { name: 'inner' }), /Step “inner”.*same name/],
		[
			'a part where a line is needed',
			(k) => Object.assign(k.steps[5]!, { outline: 'frame' }),
			/Step “pane”.*“frame” is no line/
		]
	] as [string, (kit: Kit) => void, RegExp][])
		it(`names the step of ${what}`, () => {
			expect(changed(change)).throw(words);
		});

	it('refuses cells with a corner count that the kit does not fit', () => {
		const kit = { ...FRAMED_PANE, host: { kind: 'cell', leastCorners: 3, greatestCorners: 4 } as const };
		expect(() => compileKit(kit, cell(5))).throw('fits cells with 3 to 4 corners; this cell has 5');
	});

	it('holds values between least and greatest and reports it', () => {
		const { values, clamped } = settleValues(FRAMED_PANE, { frameWidth: 99_999, recess: 40 });
		expect(values).deep.equal({ frameWidth: 2000, recess: 40, frameThickness: 3, paneThickness: 12 });
		expect(clamped).deep.equal([{ parameter: 'frameWidth', label: 'Frame width', asked: 99_999, used: 2000 }]);
	});
});

function distanceToLine(p: number[], a: number[], b: number[]): number {
	const u = b.map((x, k) => x - a[k]!);
	const w = p.map((x, k) => x - a[k]!);
	const t = u.reduce((s, x, k) => s + x * w[k]!, 0) / u.reduce((s, x) => s + x * x, 0);
	return Math.hypot(...w.map((x, k) => x - t * u[k]!));
}
