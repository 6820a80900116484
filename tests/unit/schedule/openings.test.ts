import { expect } from 'chai';
import { PRESETS } from '../../../src/core/mass/presets.ts';
import { newMass } from '../../../src/core/project/newMass.ts';
import { rowsOf } from '../../../src/core/project/rowWorld.ts';
import { emptyProject } from '../../../src/core/project/starter.ts';
import { cellsAtOpening, openingRows } from '../../../src/core/schedule/own/openings.ts';
import { runTable } from '../../../src/core/schedule/own/runTable.ts';
import { ownTableSchema } from '../../../src/core/schedule/own/schema.ts';
import { openingSchema } from '../../../src/core/tiling/openings/schema.ts';
import { run } from '../demo.ts';

/** An upright box with a row of three doors on its first wall, and a border that is no opening. */
async function doors() {
	const project = emptyProject('Doors');
	project.levels = [
		{ id: 'quay', name: 'Quay', height: 0 },
		{ id: 'deck', name: 'Deck', height: 4000 }
	];
	const mass = newMass({ ...structuredClone(PRESETS.extrusion), leanY: 0 }, project.levels, {
		id: 'm',
		name: 'Hall',
		marks: []
	});
	project.masses = [mass];
	mass.faces[0]!.openings = [
		openingSchema.parse({
			id: 'door',
			name: 'Door',
			outline: { kind: 'rectangle', width: 1200, height: 2400 },
			place: { kind: 'face', across: 3000, up: 2000 },
			across: { times: 3, spacing: 2000 }
		}),
		openingSchema.parse({
			id: 'light',
			name: 'Light',
			outline: { kind: 'rectangle', width: 600, height: 300 },
			place: { kind: 'face', across: 5000, up: 5000 }
		})
	];
	return { project, model: await run(project) };
}

const FIGURES = ['copy', 'width', 'height', 'around', 'area', 'across', 'up', 'sill', 'head'];

describe('openings as a table', () => {
	it('have a row a copy, with figures by hand on an upright wall', async () => {
		const { project, model } = await doors();
		const rows = rowsOf(project, model.faces, 'openings');
		expect(rows.count).equal(4);
		const words = (name: string) => Array.from(rows.word(name)!.index, (w) => rows.word(name)!.words[w]);
		expect(words('mark')).deep.equal(['Door 1', 'Door 2', 'Door 3', 'Light']);
		expect(words('opening')).deep.equal(['Door', 'Door', 'Door', 'Light']);
		expect(words('storey')).deep.equal(['Quay', 'Quay', 'Quay', 'Deck']);
		const ground = Math.min(...evaluated(model.faces[0]!.nodes.position));
		const figures = FIGURES.map((name) => [...rows.figure(name)!]);
		// The place of a rectangle is the middle of its lower side.
		const byHand = [0, 1, 2]
			.map((k) => [k + 1, 1200, 2400, 7200, 1200 * 2400, 3000 + 2000 * k, 3200, ground + 2000, ground + 4400])
			.concat([[1, 600, 300, 1800, 180_000, 5000, 5150, ground + 5000, ground + 5300]]);
		FIGURES.forEach((name, f) => byHand.forEach((row, r) => expect(figures[f]![r], name).closeTo(row[f]!, 0.01)));
		expect(new Set([0, 1, 2, 3].map((r) => rows.keyOf(r))).size).equal(4);
	});

	it('are filtered, grouped and summed, and are the rows of the cells that they cut', async () => {
		const { project, model } = await doors();
		const rows = rowsOf(project, model.faces, 'openings');
		const made = runTable(
			rows,
			ownTableSchema.parse({
				id: 't',
				name: 'T',
				of: 'openings',
				where: ['height > 1 m'],
				groups: ['opening'],
				columns: [
					{ kind: 'value', show: 'mark' },
					{ kind: 'value', show: 'area', summary: 'sum' }
				]
			}),
			[]
		);
		expect(made.faults).deep.equal([]);
		expect(made.groups.map((g) => [g.words[0], g.to - g.from])).deep.equal([['Door', 3]]);
		expect(made.totals[1]).closeTo(3 * 1200 * 2400, 1);
		const face = model.faces[0]!;
		openingRows(face).forEach((row, r) => {
			const cells = cellsAtOpening(face, row);
			expect(cells.length).greaterThan(0);
			for (const cell of cells) expect(rows.at([{ face: 0, cell }])).include(r);
		});
		const cut = [...face.cells.trim!.cut.keys()].filter((c) => face.cells.trim!.cut[c]);
		const near = new Set(openingRows(face).flatMap((row) => cellsAtOpening(face, row)));
		for (const c of cut) expect(near.has(c), `cell ${c}`).equal(true);
	});

	it('are the same rows until something that they show changes', async () => {
		const { project, model } = await doors();
		const rows = rowsOf(project, model.faces, 'openings');
		expect(rowsOf({ ...project, tables: [] }, model.faces, 'openings')).equal(rows);
		expect(rowsOf({ ...project, levels: [] }, model.faces, 'openings')).not.equal(rows);
		expect(rowsOf(project, model.faces, 'parts').of).equal('parts');
		expect(rowsOf(project, model.faces.slice(0, 1), 'openings').count).equal(4);
	});
});

/** Heights of nodes. */
const evaluated = (position: Float64Array) =>
	Array.from({ length: position.length / 3 }, (_, n) => position[n * 3 + 2]!);
