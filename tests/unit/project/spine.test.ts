import { expect } from 'chai';
import { bytesOfArray, keepContent } from '../../../src/core/content.ts';
import { ArrayPool } from '../../../src/core/arrays.ts';
import { kitSchema, type Kit } from '../../../src/core/kit/schema.ts';
import { placeKit } from '../../../src/core/placement/place.ts';
import { Memo } from '../../../src/core/project/memo.ts';
import { measureCells } from '../../../src/core/readings/measureCells.ts';
import { chartFace } from '../../../src/core/settingout/chartedFace.ts';
import { laidFigures } from '../../../src/core/settingout/laidFigures.ts';
import { setOut } from '../../../src/core/settingout/nodes.ts';
import { settingOutOf } from '../../../src/core/settingout/spacing.ts';
import { pieceLetter } from '../../../src/core/tiling/marks.ts';
import { tileRectangular } from '../../../src/core/tiling/rectangular.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { demoProject, PILOT_FACES, run, setRules, shippedDemo } from '../demo.ts';
import { count } from '../divide.ts';
import { tableRows } from '../schedules.ts';
import { rectangle } from '../surfaces.ts';

describe('the spine', () => {
	it('shows another mesh that has come to stand under the same id', async () => {
		// A tetrahedron, and one half as high, in the box from 0 to 1.
		const mesh = (height: number): Project['modules'][number] => ({
			id: 'mesh',
			name: 'Mesh',
			positions: keepContent(bytesOfArray(Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, height))),
			triangles: keepContent(bytesOfArray(Uint32Array.of(0, 2, 1, 0, 1, 3, 1, 2, 3, 2, 0, 3)))
		});
		const kit: Kit = kitSchema.parse({
			id: 'modules',
			name: 'Modules',
			host: { kind: 'cell', leastCorners: 4, greatestCorners: 4 },
			parameters: [],
			steps: [
				{ kind: 'outline', name: 'lower' },
				{ kind: 'lift', name: 'upper', of: 'lower', distance: 300 },
				{ kind: 'module', name: 'part', role: 'panel', material: 'steel', file: 'mesh', lower: 'lower', upper: 'upper' }
			]
		});
		const project = demoProject();
		project.kits.push(kit);
		project.materials = shippedDemo().materials;
		setRules(project, [{ id: 'r', face: 'canopy/skin', kit: 'modules', values: {} }]);
		const memo = new Memo(new ArrayPool());
		const weight = async (height: number) => {
			project.modules = [mesh(height)];
			return tableRows(await run(project, { memo })).columns.weight!.reduce((a, b) => a + b, 0);
		};
		const whole = await weight(1);
		expect((await weight(0.5)) / whole).closeTo(0.5, 0.02);
		expect(await weight(1)).equal(whole);
	});

	it('tells progress from 0 to 1 and never more, with several rules a face', async () => {
		const shares: number[] = [];
		await run(shippedDemo(), { progress: (done, of) => shares.push(done / of) });
		expect(shares.at(-1)).equal(1);
		expect(shares.every((s, k) => s <= 1 && (k === 0 || s > shares[k - 1]!))).to.be.true;
	});

	it('names pieces beyond z, and divides a face into more strips than a call takes', () => {
		expect([0, 1, 26, 27, 52, 53, 255].map(pieceLetter)).deep.equal(['', 'a', 'z', 'aa', 'az', 'ba', 'iu']);
		const lines = Float64Array.from({ length: 300_001 }, (_, k) => k * 5);
		const { modules } = laidFigures({ count: 300_000, values: lines, lines, notes: [] } as never);
		expect(modules![0]).closeTo(5, 1e-9);
	});

	it('joins the failures of single cells in time that grows as they do', () => {
		const [across, up] = [120, 120];
		const face = chartFace(rectangle(12_000, 12_000));
		const { nodes } = setOut(face, settingOutOf(count(across), count(up)));
		const all = tileRectangular(nodes);
		// Every cell dented, so that each is run by itself.
		const cells = { ...all, dented: new Uint8Array(all.count).fill(1) };
		const kit = kitSchema.parse({
			id: 'wide',
			name: 'Wide',
			host: { kind: 'cell', leastCorners: 3, greatestCorners: 64 },
			parameters: [],
			steps: [
				{ kind: 'outline', name: 'o' },
				{ kind: 'inset', name: 'in', of: 'o', distance: 900 },
				{ kind: 'sheet', name: 's', role: 'pane', material: 'glass', outline: 'in', thickness: 10 }
			]
		});
		const placed = placeKit(
			kit,
			{},
			{ surface: face.surface, nodes, cells, readings: measureCells(nodes, cells), layer: 0 },
			{ densities: { glass: 2500 } }
		);
		expect(placed.failures).to.have.length(1);
		expect([...placed.failures[0]!.hosts]).deep.equal(Array.from({ length: all.count }, (_, c) => c));
	});

	it('tells a mistake of ours as ours, and lets whoever makes files fail on it', async () => {
		const broken = () => {
			let calls = 0;
			// After all masses, on the first face.
			const first = shippedDemo().masses.length + 1;
			return {
				pause: async () => {
					if (++calls === first) throw new TypeError('x is undefined');
				}
			};
		};
		const heard: unknown[] = [];
		const model = await run(shippedDemo(), {
			...broken(),
			fault: (cause, what) => heard.push([(cause as Error).message, what])
		});
		expect(heard).deep.equal([['x is undefined', 'Canopy › Roof skin']]);
		expect(model.faces.map((f) => f.key)).deep.equal([
			'quay-front/skin',
			'lantern/skin',
			'quay-return/skin',
			'ticket-screen/skin',
			'shelter/skin',
			...PILOT_FACES
		]);
		expect(model.warnings.map((w) => w.message)).deep.equal([
			'A mistake of ours, not of this project, stopped it: x is undefined. The rest stands.'
		]);
		const failed = await run(shippedDemo(), broken()).then(
			() => undefined,
			(cause: unknown) => cause
		);
		expect(failed).instanceOf(TypeError);
	});
});
