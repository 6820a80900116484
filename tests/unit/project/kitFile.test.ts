import { expect } from 'chai';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import { packKit, readKit, unpackKit, writeKit } from '../../../src/core/project/kitFile.ts';
import { moduleLibrary } from '../../../src/core/project/kitWorld.ts';
import { moduleOf } from '../../../src/core/project/moduleMesh.ts';
import { checkDocument } from '../../../src/core/project/read.ts';
import { emptyProject } from '../../../src/core/project/starter.ts';
import { MIGRATIONS, migrate } from '../../../src/core/project/read.ts';
import { kitAsFile } from '../../../src/lib/editor/kits.ts';
import { shippedDemo } from '../demo.ts';

describe('kits as files', () => {
	it('come back as they went out, with what they need', () => {
		const project = shippedDemo();
		for (const kit of project.kits) {
			const other = emptyProject('Other');
			[other.kits, other.materials] = [[], []];
			const id = unpackKit(other, readKit(writeKit(project, kit)));
			expect(other.kits.find((k) => k.id === id)).deep.equal(kit);
			expect(packKit(other, kit)).deep.equal(packKit(project, kit));
			checkDocument(other);
		}
	});

	it('take kits within along, under free ids, and use what is there already', () => {
		const project = emptyProject('A');
		unpackKit(project, kitAsFile(STARTER_KITS.find((k) => k.id === 'pyramid')!));
		const outer = { ...structuredClone(STARTER_KITS[0]!), id: 'outer', name: 'Outer' };
		outer.steps.push({ kind: 'kit', name: 'inner', kit: 'pyramid', values: {} });
		project.kits.push(outer);
		const file = packKit(project, outer);
		expect(file.kits.map((k) => k.id)).deep.equal(['outer', 'pyramid']);
		const other = emptyProject('B');
		other.kits.push({ ...structuredClone(STARTER_KITS[1]!), id: 'pyramid', name: 'Another pyramid' });
		const id = unpackKit(other, file);
		const step = other.kits.find((k) => k.id === id)!.steps.at(-1)!;
		expect(step.kind === 'kit' && step.kit).equal('pyramid-2');
		const kits = other.kits.length;
		unpackKit(
			other,
			packKit(
				other,
				other.kits.find((k) => k.id === id)!
			)
		);
		expect(other.kits.length).equal(kits);
	});

	it('say what is wrong with a file', () => {
		expect(() => readKit('{')).throw(/This is not JSON/);
		expect(() => readKit('{}')).throw(/This is no kit: format/);
		const file = kitAsFile(structuredClone(STARTER_KITS[0]!));
		expect(() =>
			readKit(JSON.stringify({ ...file, kits: [{ ...file.kits[0]!, steps: [{ kind: 'teapot', name: 'x' }] }] }))
		).throw(`This is no kit: ${file.kits[0]!.name} › x`);
	});

	it('give names that formulas can mention to kits of older documents', () => {
		const old = {
			format: 'zygaster-project',
			version: 4,
			kits: [
				{
					id: 'k',
					parameters: [{ name: 'frame-width' }],
					steps: [{ kind: 'inset', name: 'inner-line', of: 'out-line', distance: 'frame-width' }]
				}
			],
			rules: [
				{ face: 'a/b', kit: 'k', values: { 'frame-width': 3 } },
				{ face: 'a/b', kit: 'm', values: {} }
			]
		};
		const now = migrate(old, MIGRATIONS, 5) as {
			kits: { parameters: unknown; steps: unknown }[];
			rules: { kit: string }[];
		};
		expect(now.kits[0]!.parameters).deep.equal([{ name: 'frame_width' }]);
		expect(now.kits[0]!.steps).deep.equal([
			{ kind: 'inset', name: 'inner_line', of: 'out_line', distance: 'frame_width' }
		]);
		// The last rule alone held.
		expect(now.rules.map((r) => r.kit)).deep.equal(['m']);
	});
});

describe('meshes for modules', () => {
	const piece = (positions: number[], triangles: number[]) => ({
		name: '',
		mesh: { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) }
	});

	it('are brought into a box from 0 to 1', () => {
		const module = moduleOf('chair.obj', {
			mm: 1,
			pieces: [
				piece([10, 20, 30, 14, 20, 30, 10, 28, 31], [0, 1, 2]),
				piece([10, 20, 30, 14, 28, 31, 10, 20, 31], [0, 1, 2])
			]
		});
		expect(module.name).equal('chair');
		const mesh = moduleLibrary({ modules: [{ id: 'm', ...module }] }).get('m')!;
		expect([...mesh.positions].map((x) => Math.round(x * 1e6) / 1e6)).deep.equal([
			0, 0, 0, 1, 0, 0, 0, 1, 1, 0, 0, 0, 1, 1, 1, 0, 0, 1
		]);
		expect([...mesh.triangles]).deep.equal([0, 1, 2, 3, 4, 5]);
	});

	it('are refused when they are flat or too heavy', () => {
		expect(() => moduleOf('flat.obj', { mm: 1, pieces: [piece([0, 0, 5, 1, 0, 5, 0, 1, 5], [0, 1, 2])] })).throw(
			/flat along z/
		);
		const heavy = piece(
			[0, 0, 0, 1, 1, 1, 0, 1, 0],
			Array.from({ length: 3_000_000 }, (_, k) => k % 3)
		);
		expect(() => moduleOf('city.obj', { mm: 1, pieces: [heavy] })).throw(
			/has 1.000.000 triangles; a module has 50.000 at most/
		);
	});
});
