import { expect } from 'chai';
import type { Field } from '../../../src/core/placement/fields/schema.ts';
import { RuleHosts } from '../../../src/core/placement/rules/ruleHosts.ts';
import { checkDocument } from '../../../src/core/project/read.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { removeField, usersOfField } from '../../../src/lib/editor/fields.ts';
import { demoWith, run } from '../demo.ts';

const EAST: Field = { id: 'east', name: 'Eastwards', source: { kind: 'formula', formula: 'across / 1 m' } } as Field;
const ACROSS: Field = {
	id: 'across_it',
	name: 'Across',
	source: { kind: 'along', way: 'across' },
	ease: [
		[0, 0],
		[1, 1]
	]
} as Field;

/** The demo's canopy with fields, changed in some way, checked and run. */
async function canopy(change: (project: Project) => void) {
	const project = demoWith(12, 8);
	project.fields = [ACROSS];
	change(project);
	const model = await run(checkDocument(JSON.parse(JSON.stringify(project))));
	return { model, face: model.faces[0]! };
}

describe('fields that drive the division', () => {
	it('lift the second layer node by node, between the two distances, further the further across', async () => {
		const { face } = await canopy((project) => {
			project.masses[0]!.faces[0]!.settingOut.layer = { kind: 'field', field: 'across_it', from: 200, to: 900 };
		});
		const layer = face.layer as Float64Array;
		expect(layer.length).equal(face.nodes.position.length / 3);
		const { columns } = face.nodes;
		for (let n = 0; n < layer.length; n++) {
			const column = n % columns;
			if (column > 0) expect(layer[n]).greaterThan(layer[n - 1]!);
		}
		expect(Math.min(...layer)).closeTo(200, 1e-9);
		expect(Math.max(...layer)).closeTo(900, 1e-9);
	});

	it('make Voronoi cells smaller where the field is least, as many in all as their density asks for', async () => {
		const sizes = async (from: number, to: number) => {
			const { face } = await canopy((project) => {
				project.masses[0]!.faces[0]!.tiling = {
					kind: 'voronoi',
					size: 3000,
					rounds: 6,
					rounding: 0,
					seed: 1,
					grading: { kind: 'field', field: 'across_it', from, to }
				};
			});
			const { area } = face.readings.columns;
			const across = new RuleHosts('cell', face).flat.filter((_, k) => k % 2 === 0);
			const middle = [...across].map((m) => m / Math.max(...across));
			const mean = (low: number, high: number) => {
				const own = middle.flatMap((m, c) => (m >= low && m < high ? [area[c]!] : []));
				return own.reduce((a, b) => a + b, 0) / own.length;
			};
			return mean(0.75, 1) / mean(0, 0.25);
		};
		const even = await sizes(1, 1);
		expect(even).within(0.8, 1.25);
		const graded = await sizes(0.5, 1.5);
		// Mean sizes of the outer quarters are 0.625 and 1.375 of the mean one: areas go with their squares.
		expect(graded).within(3.2, 6.5);
	});

	it('say why one that hangs on cells comes too late for making them', async () => {
		const { model } = await canopy((project) => {
			project.fields = [
				{ id: 'painted', name: 'By hand', source: { kind: 'painted', parts: [] } }
			] as unknown as Field[];
			project.masses[0]!.faces[0]!.tiling = {
				kind: 'voronoi',
				size: 3000,
				rounds: 2,
				rounding: 0,
				seed: 1,
				grading: { kind: 'field', field: 'painted', from: 0.5, to: 1 }
			};
		});
		expect(model.faces).deep.equal([]);
		expect(model.warnings.map((w) => w.message).join()).match(
			/follow a field.*“By hand” is painted on cells.*before it is divided/
		);
	});

	it('must be there, are told what follows them, and let it go when they are removed', () => {
		const project = demoWith(12, 8);
		project.fields = [EAST, ACROSS];
		const face = project.masses[0]!.faces[0]!;
		face.settingOut.layer = { kind: 'field', field: 'across_it', from: 200, to: 900 };
		face.tiling = {
			kind: 'voronoi',
			size: 3000,
			rounds: 2,
			rounding: 0,
			seed: 1,
			grading: { kind: 'field', field: 'nope', from: 0.5, to: 1 }
		};
		expect(() => checkDocument(JSON.parse(JSON.stringify(project)))).throw(/nope/);
		face.tiling.grading = { kind: 'field', field: 'across_it', from: 0.5, to: 1 };
		expect(usersOfField(project, 'across_it').join()).match(/second layer of .*sizes of cells of/);
		removeField(project, 'across_it');
		expect([face.settingOut.layer, face.tiling.grading]).deep.equal([200, { kind: 'even' }]);
	});
});
