import { expect } from 'chai';
import fc from 'fast-check';
import { summarise } from '../../../src/core/formats/summary/summarise.ts';
import { ArrayPool } from '../../../src/core/arrays.ts';
import { hashOf, Memo } from '../../../src/core/project/memo.ts';
import { validateCells } from '../../../src/core/tiling/cells.ts';
import type { PatternGeometry } from '../../../src/core/kit/result.ts';
import type { Model } from '../../../src/core/project/pipeline.ts';
import { checkDocument } from '../../../src/core/project/read.ts';
import { addOpening } from '../../../src/lib/editor/openings.ts';
import { demoProject, demoWith, fullDemo, PILOT_FACES, run, vaultOf } from '../demo.ts';
import { fileOf, tableRows } from '../schedules.ts';

/** The shapes of the first kit on the first face. */
function patternOf({ faces }: Pick<Model, 'faces'>): PatternGeometry {
	const { geometry } = faces[0]!.placements[0]!.parts[0]!;
	if (geometry.kind !== 'pattern') throw new Error('frames are patterns');
	return geometry;
}

describe('the pipeline', () => {
	it('gives the same bytes for the same document', async () => {
		const a = await run(demoProject());
		const b = await run(JSON.parse(JSON.stringify(demoProject())));
		expect(await fileOf(demoProject(), a, 'csv')).deep.equal(await fileOf(demoProject(), b, 'csv'));
		expect(patternOf(a)).deep.equal(patternOf(b));
	});

	it('adds up: cells to the face, panes and frames to the cells', async () => {
		const project = demoWith(60, 120);
		project.rules[0]!.values = { recess: 0, frameWidth: 20 };
		const model = await run(project);
		const { faces, parts } = summarise(project, model);
		expect(faces[0]!.cellAreaM2 / faces[0]!.areaM2).closeTo(1, 1e-4);
		const filled = parts.filter((p) => p.part !== 'reveal').reduce((s, p) => s + p.areaM2, 0);
		expect(filled / faces[0]!.cellAreaM2).closeTo(1, 1e-4);
		expect(validateCells(model.faces[0]!.cells, 61 * 121)).deep.equal([]);
	});

	it('gives both neighbours the same bits on the line between them', async () => {
		const { faces } = await run(demoWith(8, 9));
		const { points, pointsPerHost } = patternOf({ faces });
		const corner = (host: number, k: number) => [...points.subarray((host * pointsPerHost + k) * 3).subarray(0, 3)];
		for (let row = 0; row < 9; row++)
			for (let column = 0; column + 1 < 8; column++) {
				const left = row * 8 + column;
				expect(corner(left, 1)).deep.equal(corner(left + 1, 0));
				expect(corner(left, 2)).deep.equal(corner(left + 1, 3));
			}
	});

	it('computes again only what lies behind an edit', async () => {
		const memo = new Memo();
		const first = await run(demoWith(10, 10), { memo });
		const wider = demoWith(10, 10);
		wider.rules[0]!.values = { frameWidth: 50 };
		const second = await run(wider, { memo });
		expect(second.faces[0]!.nodes).equal(first.faces[0]!.nodes);
		expect(second.faces[0]!.readings).equal(first.faces[0]!.readings);
		expect(second.faces[0]!.placements[0]).not.equal(first.faces[0]!.placements[0]);
		const divided = await run(demoWith(11, 10), { memo });
		expect(divided.faces[0]!.surface).equal(first.faces[0]!.surface);
		expect(divided.faces[0]!.nodes).not.equal(first.faces[0]!.nodes);
	});

	it('touches only the face that changed, and forgets faces that are gone', async () => {
		const memo = new Memo();
		const two = () => {
			const project = demoWith(6, 6);
			const copy = structuredClone(project.masses[0]!);
			project.masses.push({ ...copy, id: 'other', name: 'Other', faces: [{ ...copy.faces[0]!, mark: 'O1' }] });
			return project;
		};
		const before = await run(two(), { memo });
		const project = two();
		vaultOf(project, 1).length += 500;
		const after = await run(project, { memo });
		expect(after.faces[0]!.placements[0]).equal(before.faces[0]!.placements[0]);
		expect(after.faces[1]!.nodes).not.equal(before.faces[1]!.nodes);
		await run(demoWith(6, 6), { memo });
		const again = await run(two(), { memo });
		expect(again.faces[1]!.surface).not.equal(before.faces[1]!.surface);
	});

	it('stops when a newer run takes over', async () => {
		const signal = { aborted: false };
		let pauses = 0;
		const pause = async () => {
			if (++pauses === 3) signal.aborted = true;
		};
		const outcome = await run(demoProject(), { signal, pause }).catch((e: { code: string }) => e.code);
		expect(outcome).equal('cancelled');
		expect(pauses).equal(3);
	});

	it('tells progress up to the whole', async () => {
		const told: string[] = [];
		await run(demoWith(3, 3), { progress: (done, of) => told.push(`${done}/${of}`) });
		expect(told).deep.equal([2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12].map((n) => `${n}/12`));
	});

	it('keeps cells under the same keys when the mass changes', async () => {
		const before = await run(demoWith(7, 7));
		const project = demoWith(7, 7);
		vaultOf(project).sections[1]!.rise += 2000;
		const after = await run(project);
		expect(after.faces[0]!.cells.row).deep.equal(before.faces[0]!.cells.row);
		const [rows, old] = [tableRows(after), tableRows(before)];
		expect(rows.host).deep.equal(old.host);
		expect(rows.columns.area).not.deep.equal(old.columns.area);
	});

	it('stands with any sound shape: every cell has area and every sum is a number', async () => {
		const mm = (least: number, greatest: number) => fc.integer({ min: least, max: greatest });
		const section = fc.record({
			span: mm(1, 100_000),
			rise: mm(-30_000, 30_000),
			lean: mm(-20_000, 20_000),
			shift: mm(-20_000, 20_000),
			startHeight: mm(0, 50_000),
			endHeight: mm(0, 50_000)
		});
		await fc.assert(
			fc.asyncProperty(fc.array(section, { minLength: 2, maxLength: 6 }), mm(1000, 200_000), async (list, length) => {
				const project = demoWith(5, 6);
				const sections = list.map((s, k) => ({ at: k / (list.length - 1), ...s }));
				project.masses[0]!.shape = { kind: 'vault', length, sections };
				project.rules[0]!.values = { frameWidth: 1 };
				const model = await run(project);
				const { faces } = summarise(project, model);
				expect(faces[0]!.areaM2).greaterThan(0);
				expect(faces[0]!.cellAreaM2).greaterThan(0);
				expect(model.faces[0]!.nodes.position.every(Number.isFinite)).equal(true);
			}),
			{ numRuns: 60, endOnFailure: true }
		);
	});
});

describe('hashing inputs', () => {
	it('does not depend on the order of keys, and tells different data apart', () => {
		expect(hashOf({ a: 1, b: [2, 'x'] })).equal(hashOf({ b: [2, 'x'], a: 1 }));
		expect(hashOf({ a: 1 })).not.equal(hashOf({ a: '1' }));
		expect(hashOf([[1], 2])).not.equal(hashOf([1, [2]]));
	});
});

describe('openings in the pipeline', () => {
	it('are cut in the face they are in, and nothing of the others is computed again', async () => {
		const memo = new Memo();
		const before = fullDemo();
		const first = await run(before, { memo });
		const after = structuredClone(before);
		const { place } = after.masses[0]!.faces[0]!.openings[0]!;
		if (place.kind === 'face') place.across += 700;
		const second = await run(checkDocument(after), { memo });
		expect(second.faces[0]!.cells).not.equal(first.faces[0]!.cells);
		expect(second.faces[0]!.charted).equal(first.faces[0]!.charted);
		for (const k of [1, 2]) expect(second.faces[k]!.placements[0]).equal(first.faces[k]!.placements[0]);
	});

	it('give marks of their own to the pieces of a cell, in every file', async () => {
		const project = demoWith(6, 6);
		const face = project.masses[0]!.faces[0]!;
		addOpening(face, {
			outline: { kind: 'rectangle', width: 20_000, height: 900 },
			place: { kind: 'face', across: 18_000, up: 18_000 }
		});
		const model = await run(checkDocument(project));
		const { marks } = tableRows(model);
		expect(new Set(marks).size).equal(marks.length);
		expect(marks.filter((m) => /[ab]$/.test(m)).length).greaterThan(3);
		const lines = new TextDecoder()
			.decode(await fileOf(project, model, 'csv'))
			.split('\r\n')
			.slice(1, -1);
		expect(lines.map((l) => l.split(',')[0])).deep.equal(marks);
	});

	it('tell what is wrong with them, by name, and leave the rest standing', async () => {
		const project = fullDemo();
		const face = project.masses[1]!.faces[0]!;
		addOpening(face, {
			outline: { kind: 'rectangle', width: 900, height: 2100 },
			place: { kind: 'level', across: 9000, level: 'parapet', above: 500 },
			name: 'Hatch'
		});
		const model = await run(checkDocument(project));
		const words = model.warnings.filter((w) => w.stage === 'settingOut').map((w) => w.message);
		expect(words).length(1);
		expect(words[0]).contains('“Hatch”: 15 500 mm above the ground is off the face');
		expect(model.faces[1]!.openings.map((o) => o.id)).deep.equal(['entrances', 'gangway']);
	});
});

describe('a division that does not fit', () => {
	it('leaves the last one that did standing on screen, and no face in files', async () => {
		const memo = new Memo(new ArrayPool());
		const good = await run(fullDemo(), { memo });
		const kept = good.faces[1]!.nodes.position.slice();
		memo.recycle(good);
		const bad = fullDemo();
		bad.masses[1]!.faces[0]!.settingOut.across.spacing = { kind: 'module', module: 500_000, remainder: 'end' };
		const shown = await run(checkDocument(bad), { memo, lastGood: new Map(good.faces.map((f) => [f.key, f])) });
		memo.recycle(shown);
		expect(shown.faces[1]).equal(good.faces[1]);
		expect(shown.faces[1]!.nodes.position).deep.equal(kept);
		expect(shown.warnings.map((w) => w.message).join()).match(
			/a module of 500 000 mm is longer than the face.*The last division that fitted is shown\./
		);
		// The next run puts nothing into what is still shown.
		const again = await run(demoWith(24, 48), { memo, lastGood: new Map(shown.faces.map((f) => [f.key, f])) });
		expect(again.faces).length(1);
		const file = await run(checkDocument(bad));
		expect(file.faces.map((f) => f.key)).deep.equal([
			'canopy/skin',
			'lantern/skin',
			'quay-return/skin',
			'ticket-screen/skin',
			'shelter/skin',
			...PILOT_FACES
		]);
	});
});
