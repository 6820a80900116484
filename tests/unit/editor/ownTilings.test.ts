import { expect } from 'chai';
import fc from 'fast-check';
import {
	copyOf,
	moveCorner,
	named,
	parseCorners,
	printCorners,
	removeTiling,
	usersOf,
	useTiling,
	withCell,
	withoutCell
} from '../../../src/lib/editor/ownTilings.ts';
import { endCells, rowRuns } from '../../../src/lib/editor/rowCounts.ts';
import { kindsOf, TILING_GROUPS, TILINGS } from '../../../src/lib/editor/tilings.ts';
import { tilingPicture } from '../../../src/lib/editor/tilingPicture.ts';
import { checkDocument } from '../../../src/core/project/read.ts';
import { checkUnit } from '../../../src/core/tiling/units/checkUnit.ts';
import { readTiling, writeTiling } from '../../../src/core/tiling/units/tilingFile.ts';
import { prepareUnit } from '../../../src/core/tiling/units/prepareUnit.ts';
import { unitOf } from '../../../src/core/tiling/units/unitOf.ts';
import type { TilingUnit } from '../../../src/core/tiling/units/unit.ts';
import { demoProject } from '../demo.ts';
import { ALL_TILINGS, tile } from '../tile.ts';
import { rectangle } from '../surfaces.ts';

/** No corner lies on the side of a neighbour, from which it could be moved away. */
const sideToSide = (unit: TilingUnit) =>
	prepareUnit(unit).cells.every(({ corners }) => corners.every((c) => !c.straight));
const UNITS = ALL_TILINGS.flatMap((t) => unitOf(t) ?? []);

describe('tilings of the project’s own', () => {
	it('start as a copy of what a face has, and make the same cells', () => {
		for (const tiling of ALL_TILINGS) {
			const project = demoProject();
			const { unit, id, name } = copyOf(project, tiling);
			expect(checkUnit(unit).message, tiling.kind).equal(undefined);
			const face = project.masses[0]!.faces[0]!;
			useTiling(project, face, { id, name, unit });
			expect(usersOf(checkDocument(project), id)).deep.equal(['Canopy › Roof skin']);
			if (!unitOf(tiling) || tiling.kind === 'triangles') continue;
			const [a, b] = [
				tile(rectangle(12_000, 12_000), 12, 12, tiling),
				tile(rectangle(12_000, 12_000), 12, 12, face.tiling, project.tilings)
			];
			expect(b.cells.count, tiling.kind).equal(a.cells.count);
			expect([...b.cells.corners]).deep.equal([...a.cells.corners]);
		}
	});

	it('are refused while a face needs one that is gone, and leave faces rectangular when removed', () => {
		const project = demoProject();
		useTiling(project, project.masses[0]!.faces[0]!, {
			...named(project, 'Slats'),
			unit: copyOf(project, { kind: 'rectangular' }).unit
		});
		const { id } = project.tilings[0]!;
		expect(() => checkDocument({ ...project, tilings: [] })).throw(`there is no tiling “${id}”`);
		removeTiling(project, id);
		expect(checkDocument(project).masses[0]!.faces[0]!.tiling).deep.equal({ kind: 'rectangular' });
	});

	it('come back from a file as they went', () => {
		for (const unit of UNITS) expect(readTiling(writeTiling('A tiling', unit))).deep.equal({ name: 'A tiling', unit });
		for (const [text, words] of [
			['{', 'This is not JSON'],
			['{}', 'This is no tiling'],
			[writeTiling('x', UNITS[0]!).replace('"version": 1', '"version": 2'), 'version'],
			[writeTiling('x', UNITS[0]!).replace('"width": 1', '"width": 0'), 'unit › width: must be at least 1']
		] as const)
			expect(() => readTiling(text)).throw(words);
	});

	it('still cover the plane once when any corner is moved a little, side to side, together with its copies', () => {
		fc.assert(
			fc.property(
				fc.constantFrom(...UNITS.filter((u) => !u.open && sideToSide(u))),
				fc.nat(),
				fc.nat(),
				fc.double({ min: -0.04, max: 0.04, noNaN: true }),
				fc.double({ min: -0.04, max: 0.04, noNaN: true }),
				(unit, c, k, dx, dy) => {
					const cell = unit.cells[c % unit.cells.length]!;
					const from = cell.corners[k % cell.corners.length]!;
					expect(checkUnit(moveCorner(unit, from, [from[0] + dx, from[1] + dy])).message).equal(undefined);
				}
			),
			{ numRuns: 60 }
		);
	});

	it('take cells in either sense, and keep the last one', () => {
		const square: TilingUnit = {
			width: 2,
			height: 1,
			open: false,
			cells: [
				{
					role: 'a',
					corners: [
						[0, 0],
						[1, 0],
						[1, 1],
						[0, 1]
					]
				}
			]
		};
		const two = withCell(
			square,
			[
				[1, 1],
				[2, 1],
				[2, 0],
				[1, 0]
			],
			'b'
		);
		expect(two.cells[1]!.corners[1]).deep.equal([2, 0]);
		expect(checkUnit(two).message).equal(undefined);
		expect(() => withoutCell(square, 0)).throw('at least one cell');
	});

	it('read corners as they print them, thirds and all, and say what is wrong where', () => {
		for (const { cells } of UNITS)
			for (const { corners } of cells) {
				const read = parseCorners(printCorners(corners));
				if ('error' in read) throw new Error(read.error);
				read.corners.forEach(([x, y], k) => expect(Math.hypot(x - corners[k]![0], y - corners[k]![1])).below(1e-6));
			}
		expect(
			printCorners([
				[1 / 3, 0.5],
				[2, -0.25],
				[0.123456, 1]
			])
		).equal('1/3, 1/2\n2, -1/4\n0.123456, 1');
		expect(parseCorners('0, 0\n1')).deep.equal({
			error: 'Line 2, “1”, is no corner. Right would be two numbers of fields, such as 1/2, 1.'
		});
		expect(parseCorners('0, 0\n1, 1/0\n2, 2')).deep.include({
			error: 'Line 2, “1, 1/0”, is no corner. Right would be two numbers of fields, such as 1/2, 1.'
		});
		expect(parseCorners('0, 0\n1, 1')).deep.equal({ error: 'A cell has at least three corners, one a line.' });
	});
});

describe('the gallery', () => {
	it('has every kind once, each with a picture', () => {
		const kinds = TILING_GROUPS.flatMap(kindsOf);
		expect([...kinds, 'own'].sort()).deep.equal(Object.keys(TILINGS).sort());
		const pictures = ALL_TILINGS.map((t) => tilingPicture(t));
		for (const { paths, width, height } of pictures) {
			expect(paths.join('')).match(/^(M[\d. L-]+Z)+$/);
			expect(width / height).within(1, 2);
		}
		expect(new Set(pictures.map((p) => p.paths.join())).size).equal(pictures.length);
	});
});

describe('rows', () => {
	it('are told with their cells, equal ones together', () => {
		const { cells } = tile(rectangle(8000, 6000), 4, 3, { kind: 'diamonds' });
		const view = { ...cells, cellCount: cells.count };
		const runs = rowRuns(view);
		expect(runs.reduce((n, { from, to, cells: each }) => n + (to - from + 1) * each, 0)).equal(cells.count);
		expect(runs.every((r, k) => k === 0 || (r.from === runs[k - 1]!.to + 1 && r.cells !== runs[k - 1]!.cells))).equal(
			true
		);
		expect(endCells(view)![0]).equal(0);
		expect(endCells({ ...view, cellCount: 0 })).equal(undefined);
		const flipped = { ...view, order: { row: cells.row.map((r) => 99 - r), column: cells.column } };
		expect(cells.row[endCells(flipped)![1]]).equal(0);
	});
});
