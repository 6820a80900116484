import { expect } from 'chai';
import fc from 'fast-check';
import { easeThrough, shareOf } from '../../../src/core/placement/fields/ease.ts';
import { distanceTo, measureLine, smoothLeast, tracePoints } from '../../../src/core/placement/fields/distance.ts';
import { noiseAt } from '../../../src/core/placement/fields/noise.ts';
import { keepContent } from '../../../src/core/content.ts';
import { pictureReader } from '../../../src/core/placement/fields/picture.ts';
import type { Field } from '../../../src/core/placement/fields/schema.ts';
import { checkDocument } from '../../../src/core/project/read.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { FACE, placed, withRules } from './make.ts';

const number = fc.double({ min: -50, max: 50, noNaN: true });
const point = fc.tuple(number, number, number);

describe('distances of fields', () => {
	it('to lines are those of a fine sampling of them', () => {
		fc.assert(
			fc.property(point, fc.array(point, { minLength: 2, maxLength: 30 }), ([x, y, z], line) => {
				const STEPS = 100;
				let least = Infinity;
				let longest = 0;
				for (let k = 0; k + 1 < line.length; k++) {
					const [a, b] = [line[k]!, line[k + 1]!];
					longest = Math.max(longest, Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]));
					for (let s = 0; s <= STEPS; s++) {
						const at = a.map((v, c) => v + ((b[c]! - v) * s) / STEPS);
						least = Math.min(least, Math.hypot(x - at[0]!, y - at[1]!, z - at[2]!));
					}
				}
				const found = distanceTo(measureLine(line))(x, y, z);
				expect(found).most(least + 1e-9);
				expect(least - found).most(longest / STEPS + 1e-9);
			})
		);
	});

	it('blend smoothly: never above the least, in any order, and the least itself where others are far', () => {
		fc.assert(
			fc.property(
				fc.array(fc.double({ min: 0, max: 100, noNaN: true }), { minLength: 1, maxLength: 6 }),
				fc.double({ min: 0.1, max: 50, noNaN: true }),
				(all, blend) => {
					const found = smoothLeast(all, blend);
					expect(found).most(Math.min(...all));
					expect(smoothLeast([...all].reverse(), blend)).equal(found);
					expect(smoothLeast([3, 3 + blend], blend)).equal(3);
				}
			)
		);
	});

	it('to a curve run through its points', () => {
		const points = [
			[0, 0, 0],
			[10, 5, 0],
			[20, 0, 3]
		] as const;
		const line = tracePoints('curve', points, false);
		for (const [x, y, z] of points) expect(distanceTo(measureLine(line))(x, y, z)).below(1e-9);
	});
});

describe('the curve of a field', () => {
	it('goes through its points, rises where they rise, and never beyond two neighbours', () => {
		const shape = fc
			.uniqueArray(fc.integer({ min: 1, max: 99 }), { maxLength: 6 })
			.chain((xs) =>
				fc
					.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: xs.length + 2, maxLength: xs.length + 2 })
					.map((ys) =>
						[0, ...xs.sort((a, b) => a - b).map((x) => x / 100), 1].map((x, k): [number, number] => [x, ys[k]!])
					)
			);
		fc.assert(
			fc.property(shape, fc.double({ min: 0, max: 1, noNaN: true }), (points, x) => {
				const ease = easeThrough(points);
				for (const [px, py] of points) expect(ease(px)).closeTo(py, 1e-12);
				const k = Math.max(
					0,
					points.findLastIndex((p) => p[0] <= x && p[0] < 1)
				);
				const [a, b] = [points[k]![1], points[k + 1]![1]];
				expect(ease(x)).within(Math.min(a, b) - 1e-12, Math.max(a, b) + 1e-12);
			})
		);
	});

	it('stays beyond its range, and goes in steps where that is asked', () => {
		const even = shareOf({}, [10, 20]);
		expect([5, 10, 15, 20, 99].map(even)).deep.equal([0, 0, 0.5, 1, 1]);
		const steps = shareOf({ steps: 4 }, [0, 1]);
		expect([0, 0.24, 0.26, 0.6, 1].map(steps)).deep.equal([0, 0, 1 / 3, 2 / 3, 1]);
		expect([20, 10].map(shareOf({}, [20, 10]))).deep.equal([0, 1]);
	});

	it('of noise stays between 0 and 1, the same for the same seed, and close where points are close', () => {
		fc.assert(
			fc.property(fc.nat(), point, (seed, [x, y, z]) => {
				const n = noiseAt(seed, 10, x, y, z);
				expect(n).within(0, 1);
				expect(noiseAt(seed, 10, x, y, z)).equal(n);
				// A quintic's slope is 15/8 at most, along each of three axes.
				expect(Math.abs(noiseAt(seed, 10, x + 0.01, y, z) - n)).below(0.0019 * 1.01);
			})
		);
	});
});

describe('fields on a face', () => {
	const withField = (source: Field['source'], more: Partial<Field> = {}): Project => {
		const project = withRules([
			{ kit: 'pyramid', values: { height: { kind: 'field', field: 'f', from: 40, to: 240 } } }
		]);
		project.fields = [{ id: 'f', name: 'F', source, ...more }];
		return project;
	};
	const heights = async (project: Project) => {
		const { face, jobs, model } = await placed(project);
		return { face, model, heights: jobs[0]!.columns.height! };
	};

	it('drive a value that grows with the distance to a point, as by hand', async () => {
		const at: [number, number, number] = [12_000, 4000, 2000];
		const { face, heights: h } = await heights(
			withField(
				{
					kind: 'distance',
					to: [{ kind: 'points', points: [at], closed: false }],
					combine: 'least',
					blend: 1,
					along: 'straight'
				},
				{ range: [0, 30_000] }
			)
		);
		const { cornerStart, corners, count } = face.cells;
		const distance = Array.from({ length: count }, (_, c) => {
			const nodes = [...corners.subarray(cornerStart[c], cornerStart[c + 1])];
			const middle = [0, 1, 2].map(
				(k) => nodes.reduce((sum, n) => sum + face.nodes.position[n * 3 + k]!, 0) / nodes.length
			);
			return Math.hypot(...middle.map((x, k) => x - at[k]!));
		});
		distance.forEach((d, c) => expect(h[c]).closeTo(40 + Math.min(1, d / 30_000) * 200, 1e-9));
		const order = [...distance.keys()].sort((a, b) => distance[a]! - distance[b]!);
		order.forEach((c, k) => k > 0 && expect(h[c]).least(h[order[k - 1]!]! - 1e-9));
	});

	it('are heights, places along the face, angles to a direction, readings, chance, noise and formulas', async () => {
		const sources: Field['source'][] = [
			{ kind: 'height' },
			{ kind: 'along', way: 'across' },
			{ kind: 'direction', x: 0, y: 0, z: 1 },
			{ kind: 'reading', reading: 'tilt' },
			{ kind: 'random', seed: 3 },
			{ kind: 'noise', seed: 3, size: 4000 },
			{ kind: 'formula', formula: 'sqrt(area) / 1 m' }
		];
		const found = await Promise.all(sources.map(async (source) => (await heights(withField(source))).heights));
		for (const h of found) {
			expect(h.every(Number.isFinite)).true;
			expect([Math.min(...h), Math.max(...h)]).deep.equal([40, 240]);
		}
		// The angle to the zenith is the tilt.
		found[2]!.forEach((h, c) => expect(h).closeTo(found[3]![c]!, 1e-6));
	});

	it('along the face measure as it lies flat', async () => {
		const { face, heights: h } = await heights(withField({ kind: 'along', way: 'up' }));
		const { row } = face.cells;
		h.forEach((value, c) => {
			if (row[c]! > 0) expect(value).above(h[c - 12]!);
		});
	});

	it('of pictures are the brightness of their points, even between them, repeated or turned', async () => {
		// Two by two points: black and red above, blue and white below.
		const pixels = keepContent(Uint8Array.of(0, 0, 0, 255, 0, 0, 0, 0, 255, 255, 255, 255));
		const picture: Extract<Field['source'], { kind: 'picture' }> = {
			kind: 'picture',
			file: '',
			pixels,
			width: 2,
			height: 2,
			channel: 'brightness',
			lay: 'fit',
			size: 1000,
			turn: 0
		};
		const bright = pictureReader(picture);
		const near = (s: number, t: number, value: number) => expect(bright(s, t)).closeTo(value, 1e-12);
		near(0.25, 0.75, 0);
		near(0.75, 0.75, 0.2126);
		near(0.25, 0.25, 0.0722);
		near(0.75, 0.25, 1);
		near(0.5, 0.5, (0 + 0.2126 + 0.0722 + 1) / 4);
		near(-3, 9, 0);
		const again = pictureReader({ ...picture, lay: 'repeat', channel: 'red' });
		for (const [s, t] of [
			[0.1, 0.3],
			[0.6, 0.9]
		] as const)
			expect(again(s + 3, t - 2)).closeTo(again(s, t), 1e-12);
		const { face, heights: h } = await heights(withField(picture, { range: [0, 1] }));
		const { row, column } = face.cells;
		// The corner cells of the face see the corners of the picture, as it lies over the flat face.
		const at = (r: number, c: number) => h[[...row.keys()].find((k) => row[k] === r && column[k] === c)!]!;
		expect(at(0, 0)).below(at(0, 11));
		expect(at(7, 0)).below(45);
		const half = await heights(withField({ ...picture, turn: Math.PI }, { range: [0, 1] }));
		expect(half.heights[0]).closeTo(40 + 0.2126 * 200, 1);
		const project = withField({ ...picture, width: 3 });
		expect(() => checkDocument(project)).throws('has 12 bytes; 3 × 2 points take 18');
		const gone = await placed(withField({ ...picture, pixels: `sha256:${'0'.repeat(64)}` }));
		expect(gone.model.warnings.map((w) => w.message).join()).include('the picture of the field “F” cannot be read');
	});

	it('painted by hand have what each cell was given, and on edges the mean of both sides', async () => {
		const project = withField(
			{
				kind: 'painted',
				parts: [
					{
						face: FACE,
						runs: [
							[1, 2, 2_000_000, 0.25],
							[0, 0, 0, 1]
						]
					}
				]
			},
			{ range: [0, 1] }
		);
		const { face, heights: h } = await heights(project);
		const { row, column } = face.cells;
		h.forEach((value, c) => {
			const painted = row[c] === 0 && column[c] === 0 ? 1 : row[c] === 1 && column[c]! >= 2 ? 0.25 : 0;
			expect(value).closeTo(40 + 200 * painted, 1e-9);
		});
		project.rules = [
			{
				id: 'm',
				set: 'edges',
				faces: [FACE],
				where: [{ kind: 'field', field: 'f', from: 0.5, to: 0.5 }],
				kit: 'mullion',
				values: {}
			}
		];
		// Right of the corner cell, and above it: half of 1 and 0.
		expect((await placed(project)).set.taken).deep.equal([2]);
		project.fields[0]!.source = { kind: 'painted', parts: [{ face: 'none/none', runs: [] }] };
		expect(() => checkDocument(project)).throws('there is no face “none/none”');
	});

	it('that hang on themselves, or mix units, are told of and leave the rest standing', async () => {
		const circle = withField({ kind: 'formula', formula: 'g + 1' });
		circle.fields.push({ id: 'g', name: 'G', source: { kind: 'formula', formula: 'f * 2' } });
		const { model } = await placed(circle);
		expect(model.warnings.map((w) => w.message).join()).include('hangs on itself: f → g → f');
		const mixed = await placed(withField({ kind: 'formula', formula: 'area + tilt' }));
		expect(mixed.model.warnings.map((w) => w.message).join()).include('do not go together');
	});

	it('are refused where their range is none, or a name means something else', () => {
		expect(() => checkDocument(withField({ kind: 'height' }, { range: [3, 3] }))).throws(
			'begins and ends at one value'
		);
		const project = withField({ kind: 'height' });
		project.fields.push({ id: 'area', name: 'Area', source: { kind: 'height' } });
		expect(() => checkDocument(project)).throws('“area” means something else');
	});
});

describe('values of rules', () => {
	it('follow formulas over readings: areas and heights of folded panels by hand', async () => {
		const project = withRules([
			{ kit: 'pyramid', values: { joint: 0, height: { kind: 'formula', formula: 'sqrt(area) / 10' } } }
		]);
		const { face, jobs } = await placed(project);
		const { area } = face.readings.columns;
		jobs[0]!.columns.height!.forEach((h, c) => expect(h).closeTo(Math.sqrt(area[c]!) / 10, 1e-9));
		// Four triangles from the sides to a point above the middle (Heron's formula): what the sheets have.
		const { cornerStart, corners } = face.cells;
		const sheet = face.placements[0]!.parts.reduce(
			(sum, p) => sum.map((a, h) => a + p.area[h]!),
			new Float64Array(face.cells.count)
		);
		const at = (n: number) => [0, 1, 2].map((k) => face.nodes.position[n * 3 + k]!);
		const far = (a: number[], b: number[]) => Math.hypot(...a.map((x, k) => x - b[k]!));
		for (const c of [0, 17, 50]) {
			const ring = [...corners.subarray(cornerStart[c], cornerStart[c + 1])].map(at);
			const normal = [0, 1, 2].map((k) => face.readings.normal[c * 3 + k]!);
			const top = [0, 1, 2].map(
				(k) => ring.reduce((s, p) => s + p[k]!, 0) / 4 + (normal[k]! * Math.sqrt(area[c]!)) / 10
			);
			const sides = ring.map((p, k) => {
				const q = ring[(k + 1) % 4]!;
				const [a, b, d] = [far(p, q), far(q, top), far(top, p)];
				const s = (a + b + d) / 2;
				return Math.sqrt(s * (s - a) * (s - b) * (s - d));
			});
			expect(sheet[c]).closeTo(
				sides.reduce((a, b) => a + b, 0),
				2e-3 * sheet[c]!
			);
		}
	});

	it('repeat along lines, are chosen by weight, and change materials', async () => {
		const project = withRules([
			{
				kit: 'louver-bank',
				values: {
					spacing: { kind: 'list', along: 'column', values: [150, 250] },
					finish: {
						kind: 'choice',
						seed: 5,
						values: [
							{ value: 'steel', weight: 3 },
							{ value: 'timber', weight: 1 }
						]
					}
				}
			}
		]);
		const { face, jobs } = await placed(project);
		expect(jobs.map((j) => j.given.finish).sort()).deep.equal(['steel', 'timber']);
		const counts = Object.fromEntries(jobs.map((j) => [j.given.finish, j.hosts.length]));
		expect(counts.steel! + counts.timber!).equal(96);
		expect(counts.steel).above(counts.timber!);
		for (const job of jobs)
			job.hosts.forEach((c, k) => expect(job.columns.spacing![k]).equal(face.cells.column[c]! % 2 === 0 ? 150 : 250));
		const made = new Set(face.placements.flatMap((p) => p.parts.map((part) => part.material)));
		expect([...made].sort()).deep.equal(['steel', 'timber']);
	});

	it('share numbers of the project, and are held at the limits, which is counted', async () => {
		const project = withRules([
			{ kit: 'pyramid', values: { height: { kind: 'formula', formula: 'base + 1 m * column' } } }
		]);
		project.numbers = [{ id: 'base', name: 'Base', quantity: 'length', value: 100 }];
		const { face, model } = await placed(project);
		const { greatest } = project.kits.find((k) => k.id === 'pyramid')!.parameters.find((p) => p.name === 'height') as {
			greatest: number;
		};
		const over = [...face.cells.column].filter((c) => 100 + 1000 * (c + 1) > greatest).length;
		expect(face.clamped).equal(over);
		expect(model.warnings.map((w) => w.message)).include(
			`Height of “Pyramid” follows a formula that was held at its limits on ${over} cells.`
		);
	});
});
