import { expect } from 'chai';
import fc from 'fast-check';
import { checkDocument } from '../../../src/core/project/read.ts';
import { ModelViewer } from '../../../src/core/view/modelView.ts';
import { received } from '../../../src/core/view/received.ts';
import { liftFrom, runsOfCells, setByHand, type HandCell } from '../../../src/lib/editor/byHand.ts';
import { brushed, paintedValues, putPainted } from '../../../src/lib/editor/fieldBrush.ts';
import { addFieldTo, removeField, usersOfField } from '../../../src/lib/editor/fields.ts';
import { freeId } from '../../../src/lib/editor/names.ts';
import {
	addRule,
	changeKit,
	dropRuleFaces,
	moveRule,
	renameValue,
	setFor,
	shareRules,
	placeOnce
} from '../../../src/lib/editor/placement.ts';
import { RULE_PRESETS } from '../../../src/lib/editor/rulePresets.ts';
import { renameNumber } from '../../../src/lib/editor/ruleWords.ts';
import { reselect, type SelectionTool } from '../../../src/lib/editor/selectionTools.ts';
import { plain } from '../block.ts';
import { fullDemo, run } from '../demo.ts';
import { FACE, withRules } from '../placement/make.ts';

describe('rules of a project', () => {
	it('stand before the one that takes all others, are moved, and keep what another kit knows', () => {
		const project = withRules([{ kit: 'framed-pane', values: { frameWidth: 80, paneThickness: 16 } }]);
		const id = addRule(project, { set: 'panels', faces: [FACE], kit: null, where: [{ kind: 'checker', odd: false }] });
		expect(project.rules.map((r) => r.id)).deep.equal([id, 'r1']);
		moveRule(project, id, undefined);
		expect(project.rules.map((r) => r.id)).deep.equal(['r1', id]);
		moveRule(project, id, 'r1');
		expect(project.rules.map((r) => r.id)).deep.equal([id, 'r1']);
		expect(changeKit(project, 'r1', 'flat-pane')).deep.equal(['Frame width']);
		expect(project.rules[1]!.values).deep.equal({ paneThickness: 16 });
		renameValue(project, 'flat-pane', 'paneThickness', 'thick');
		expect(project.rules[1]!.values).deep.equal({ thick: 16 });
		renameValue(project, 'flat-pane', 'thick', undefined);
		expect(checkDocument(project).rules[1]!.values).deep.equal({});
	});

	it('are shared by new faces, and go with the last of theirs', () => {
		const project = fullDemo();
		shareRules(project, 'canopy/skin', ['lantern/skin']);
		expect(project.rules[0]!.faces).deep.equal(['canopy/skin', 'lantern/skin']);
		dropRuleFaces(project, (face) => face === 'canopy/skin');
		expect(project.rules[0]!.faces).deep.equal(['lantern/skin']);
		dropRuleFaces(project, (face) => face === 'lantern/skin');
		expect(project.rules.map((r) => r.faces[0])).not.include('lantern/skin');
	});

	it('come from presets that all make sound projects in which something holds', async () => {
		const project = withRules([{ kit: 'framed-pane' }]);
		const viewer = new ModelViewer();
		const view = received(viewer.update(await run(project), new Set(), 0, undefined), undefined);
		for (const { hosts, label, apply } of RULE_PRESETS) {
			if (!hosts.includes('cell')) continue;
			const changed = structuredClone(project);
			const id = apply(changed, 'panels', view.faces[0]!);
			const model = await run(checkDocument(changed));
			expect(
				changed.rules.some((r) => r.id === id),
				label
			).true;
			// Nothing of this face is cut or small, which is told.
			const silent = label === 'Cut ones by another kit' || label === 'Small ones plain';
			expect(model.warnings.length, label).most(silent ? 1 : 0);
		}
	});

	it('come from presets for where faces meet: once, and corner posts, on all faces that have rules of the set', async () => {
		const project = plain([]);
		const viewer = new ModelViewer();
		const view = received(viewer.update(await run(project), new Set(), 0, undefined), undefined);
		const set = (host: string) => project.rules.find((r) => r.kit === host)!.set;
		for (const label of ['Once where faces meet', 'Corner posts'])
			RULE_PRESETS.find((p) => p.label === label)!.apply(
				project,
				set(label === 'Corner posts' ? 'mullion' : 'node-disc'),
				view.faces[2]!
			);
		const model = await run(checkDocument(project));
		expect(model.warnings.map((w) => w.message)).deep.equal([]);
		const placed = (kit: string) =>
			model.faces.flatMap((f) => f.placements.filter((p) => p.kit.id === kit && !p.inner));
		// A block of 4 by 3 fields and two rows, by hand: see where faces meet.
		expect(placed('node-disc').reduce((n, p) => n + p.hosts.length, 0)).equal(48);
		const widths = placed('mullion').flatMap((p) => Array<number>(p.hosts.length).fill(p.values!.alike.width!));
		expect([60, 120].map((width) => widths.filter((w) => w === width).length)).deep.equal([65, 22]);
		expect(model.faces.every((f) => f.assigned.sets.every((s) => s.unassigned === 0))).equal(true);
	});

	it('leave to the earlier face what stands twice, before all rules of the set, so that no other one takes its place', async () => {
		const project = plain([{ kind: 'border', state: 'face', within: 0 }]);
		project.rules = project.rules.filter((r) => r.kit === 'mullion');
		project.rules.push({ ...project.rules[0]!, id: 'others', where: [] });
		const [twice] = (await run(project)).warnings;
		placeOnce(project, twice!.once!);
		expect(project.rules.map((r) => r.id)).deep.equal([project.rules[0]!.id, 'mullions', 'others']);
		const model = await run(checkDocument(project));
		expect(model.warnings.map((w) => w.message)).deep.equal([]);
		const bars = model.faces.flatMap((f) => f.placements.map((p) => p.hosts.length));
		// All edges of the block, each once; by hand: see where faces meet.
		expect(bars.reduce((a, b) => a + b, 0)).equal(87);
	});

	it('stand in a set for their hosts, made where there is none', () => {
		const project = withRules([{}]);
		project.sets = project.sets.filter((s) => s.host !== 'edge');
		const mullion = project.kits.find((k) => k.id === 'mullion')!;
		expect(setFor(project, mullion)).deep.equal({ id: 'edges-1', name: 'Edges', host: 'edge' });
	});

	it('let go of a field that is removed, which says who followed it', () => {
		const project = withRules([
			{ kit: 'framed-pane', where: [{ kind: 'field', field: 'Height', from: 0 }] },
			{ kit: 'framed-pane' }
		]);
		const id = addFieldTo(project, { kind: 'height' }, 'Height');
		expect(id).equal('Height');
		project.rules[1]!.values = { frameWidth: { kind: 'field', field: id, from: 50, to: 90 } };
		expect(usersOfField(checkDocument(project), id)).deep.equal(['a rule of Panels', 'a rule of Panels']);
		removeField(project, id);
		expect(checkDocument(project).rules.map((r) => [r.where, r.values])).deep.equal([
			[[], {}],
			[[], {}]
		]);
	});
});

describe('shared numbers', () => {
	it('are renamed wherever a formula calls them', () => {
		const project = withRules([
			{
				kit: 'framed-pane',
				where: [{ kind: 'not', of: { kind: 'any', of: [{ kind: 'formula', formula: 'width > base' }] } }],
				values: { frameWidth: { kind: 'formula', formula: 'base / 2' }, recess: 20 }
			}
		]);
		project.numbers = [{ id: 'base', name: 'base', quantity: 'length', value: 120 }];
		project.fields = [{ id: 'f', name: 'F', source: { kind: 'formula', formula: 'height / base' } }];
		renameNumber(project, 'base', 'wide');
		const { numbers, rules, fields } = checkDocument(project);
		expect([numbers[0]!.id, fields[0]!.source, rules[0]!.values.frameWidth, rules[0]!.where]).deep.equal([
			'wide',
			{ kind: 'formula', formula: 'height / wide' },
			{ kind: 'formula', formula: 'wide / 2' },
			[{ kind: 'not', of: { kind: 'any', of: [{ kind: 'formula', formula: 'width > wide' }] } }]
		]);
	});
});

describe('cells by hand', () => {
	const cell = fc.record({ face: fc.constantFrom('a/b', 'c/d'), row: fc.nat(6), column: fc.nat(8), piece: fc.nat(1) });
	const named = (c: HandCell) => `${c.face} ${c.row} ${c.column} ${c.piece}`;

	it('are kept as runs that hold each of them once', () => {
		fc.assert(
			fc.property(fc.array(cell, { minLength: 1, maxLength: 40 }), (cells) => {
				const own = cells.map((c) => ({ ...c, face: 'a/b' }));
				const back = runsOfCells(own).flatMap(([row, from, to, piece]) =>
					Array.from({ length: to - from + 1 }, (_, k) => named({ face: 'a/b', row, column: from + k, piece }))
				);
				expect(back.sort()).deep.equal([...new Set(own.map(named))].sort());
			})
		);
	});

	it('are set over each other, and lifted again from those alone that are named', () => {
		fc.assert(
			fc.property(
				fc.array(cell, { minLength: 1, maxLength: 20 }),
				fc.array(cell, { maxLength: 20 }),
				(cells, lifted) => {
					const project = fullDemo();
					setByHand(project, 'panels', cells, { kit: null });
					liftFrom(project, 'panels', lifted);
					const left = project.overrides.flatMap((o) =>
						o.hosts.flatMap(([row, from, to, piece]) =>
							Array.from({ length: to - from + 1 }, (_, k) => named({ face: o.face, row, column: from + k, piece }))
						)
					);
					const gone = new Set(lifted.map(named));
					expect(left.sort()).deep.equal([...new Set(cells.map(named))].filter((n) => !gone.has(n)).sort());
				}
			)
		);
	});
});

describe('the brush of a field', () => {
	/** Ten unit squares in a row, as they lie flat. */
	const count = 10;
	const face = {
		cellCount: count,
		cornerStart: Uint32Array.from({ length: count + 1 }, (_, c) => c * 4),
		row: new Uint32Array(count),
		column: Uint32Array.from({ length: count }, (_, c) => c)
	};
	const corners = Array.from({ length: count }, (_, c) => [c, 0, c + 1, 0, c + 1, 1, c, 1]).flat();
	const at = (values: ReadonlyMap<string, number>) =>
		Array.from({ length: count }, (_, c) => values.get(`0 ${c}`) ?? 0);

	it('is full in its middle, falls off to its edge, and wipes what it has painted', () => {
		const once = brushed(face, corners, new Map(), [4], { radius: 2, strength: 1 }, false);
		// (1 - (1/2)²)² at one cell away, 0 at two.
		expect(at(once)).deep.equal([0, 0, 0, 0.56, 1, 0.56, 0, 0, 0, 0]);
		const twice = brushed(face, corners, once, [4], { radius: 2, strength: 0.5 }, false);
		expect(twice.get('0 3')).closeTo(0.56 + 0.5 * 0.5625 * 0.44, 0.0051);
		const wiped = brushed(face, corners, once, [4], { radius: 2, strength: 1 }, true);
		expect(at(wiped)[4]).equal(0);
		expect(at(wiped)[3]).below(at(once)[3]!);
	});

	it('is kept as runs of like values, which give the same values again', () => {
		const project = withRules([{}]);
		project.fields = [{ id: 'f', name: 'F', source: { kind: 'painted', parts: [] } }];
		const values = brushed(face, corners, new Map(), [3, 4, 5], { radius: 2, strength: 1 }, false);
		putPainted(project, 'f', FACE, values);
		const { source } = checkDocument(project).fields[0]!;
		expect(source).deep.equal({
			kind: 'painted',
			parts: [
				{
					face: FACE,
					runs: [
						[0, 2, 2, 0.56],
						[0, 3, 5, 1],
						[0, 6, 6, 0.56]
					]
				}
			]
		});
		if (source.kind !== 'painted') return;
		expect(at(paintedValues(source, FACE))).deep.equal(at(values));
	});
});

describe('other cells by those chosen', () => {
	it('are rows, columns, neighbours, the rest, and those with the same kit', async () => {
		const project = withRules([
			{ where: [{ kind: 'lines', of: 'column', from: 1, every: 2 }] },
			{ kit: 'framed-pane' }
		]);
		const view = received(new ModelViewer().update(await run(project), new Set(), 0, undefined), undefined);
		const at = (row: number, column: number) => ({ face: 0, cell: row * 12 + column });
		const find = (tool: SelectionTool, ...chosen: ReturnType<typeof at>[]) =>
			reselect(view, chosen, tool).map((a) => a.cell);
		expect(find('row', at(2, 3))).deep.equal(Array.from({ length: 12 }, (_, c) => at(2, c).cell));
		expect(find('column', at(2, 3))).deep.equal(Array.from({ length: 8 }, (_, r) => at(r, 3).cell));
		const grown = [at(1, 3), at(2, 2), at(2, 3), at(2, 4), at(3, 3)];
		expect(find('grow', at(2, 3))).deep.equal(grown.map((a) => a.cell));
		expect(find('shrink', ...grown)).deep.equal([at(2, 3).cell]);
		expect(find('invert', ...grown).length).equal(96 - 5);
		expect(find('kit', at(0, 0)).every((c) => c % 2 === 0)).true;
		expect(find('kit', at(0, 0)).length).equal(48);
	});
});

describe('free ids', () => {
	it('are none that is taken, with or without a tail', () => {
		expect(freeId('rule', ['rule-1', 'rule-2-ab', 'rule-4', 'rules-3'])).equal('rule-3');
		expect(freeId('rule', [])).equal('rule-1');
	});
});
