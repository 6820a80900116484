import { expect } from 'chai';
import { parse } from 'csv-parse/sync';
import fc from 'fast-check';
import {
	comparePieces,
	piecesByKey,
	summariseChanges,
	type PieceState
} from '../../../src/core/formats/changes/comparePieces.ts';
import { writeChanges } from '../../../src/core/formats/changes/writeChanges.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { demoWith, run, setCount, shippedDemo } from '../demo.ts';

const pieces = async (project: Project) => piecesByKey(project, await run(project));
const counts = (a: Map<string, PieceState>, b: Map<string, PieceState>) => summariseChanges(a, b, comparePieces(a, b));
const NONE = { added: 0, gone: 0, changed: 0, moved: 0, renumbered: 0 };

/** The old pieces with the changes made to them, as someone would who has the list alone. */
function applied(before: ReadonlyMap<string, PieceState>, after: ReadonlyMap<string, PieceState>) {
	const made = new Map(before);
	for (const change of comparePieces(before, after)) {
		if (change.kind === 'gone') made.delete(change.before!.key);
		else if (change.kind === 'added') made.set(change.after!.key, change.after!);
		else
			made.set(change.after!.key, {
				...change.before!,
				...Object.fromEntries(change.what.map((name) => [name, change.after![name as 'mark']]))
			});
	}
	return made;
}

describe('what has changed between two states', () => {
	it('is nothing between a state and itself, piece by piece', async () => {
		const all = await pieces(shippedDemo());
		expect(all.size).equal(20381);
		expect(counts(all, await pieces(shippedDemo()))).deep.include({ ...NONE, same: all.size });
	});

	it('counts another material, wider frames, more rows and other marks each as what it is', async () => {
		const first = demoWith(6, 5);
		const before = await pieces(first);
		const n = 30;
		const material = demoWith(6, 5);
		const frame = material.kits.find((k) => k.id === 'framed-pane')!.steps.find((s) => s.name === 'frame')!;
		Object.assign(frame, { material: 'steel' });
		const steel = counts(before, await pieces(material));
		expect(steel.changed)
			.greaterThan(0)
			.lessThan(before.size + 1);
		expect([steel.added, steel.gone]).deep.equal([0, 0]);
		const taller = demoWith(6, 5);
		setCount(taller, 0, 'up', 7);
		const grown = counts(before, await pieces(taller));
		// Two rows of six more; those of before live on, in other sizes.
		expect([grown.added, grown.gone]).deep.equal([(before.size / n) * 12, 0]);
		expect(grown.changed + grown.moved).equal(before.size);
		const marked = demoWith(6, 5);
		marked.masses[0]!.faces[0]!.marks = 'X-{face}-{row}-{column}';
		expect(counts(before, await pieces(marked))).deep.include({ ...NONE, renumbered: before.size });
		const order = demoWith(6, 5);
		order.masses[0]!.frame = { ...order.masses[0]!.frame, x: order.masses[0]!.frame.x + 2500 };
		expect(counts(before, await pieces(order))).deep.include({ ...NONE, moved: before.size });
	});

	it('made to the old gives the new (property)', async () => {
		const states = await Promise.all([
			pieces(demoWith(4, 3)),
			pieces(demoWith(5, 3)),
			pieces({ ...demoWith(4, 4), rules: demoWith(4, 4).rules.map((r) => ({ ...r, kit: 'flat-pane', values: {} })) })
		]);
		const state = fc
			.tuple(
				fc.nat(states.length - 1),
				fc.array(fc.nat(60), { maxLength: 20 }),
				fc.double({ min: 0.5, max: 2, noNaN: true })
			)
			.map(([s, without, by]) => {
				const list = [...states[s]!.values()].filter((_, k) => !without.includes(k));
				return new Map(
					list.map((p, k) => [p.key, k % 3 === 0 ? { ...p, weight: p.weight * by, mark: `${p.mark}'` } : p])
				);
			});
		fc.assert(
			fc.property(state, state, (a, b) => {
				const made = applied(a, b);
				expect([...made.keys()].sort()).deep.equal([...b.keys()].sort());
				for (const [key, piece] of b) {
					const { weight, ...rest } = made.get(key)!;
					expect({ ...rest, at: 0 }).deep.include({ mark: piece.mark, material: piece.material, kit: piece.kit });
					expect(weight).closeTo(piece.weight, 0.006 * Math.max(1, piece.weight));
				}
				const { added, gone, changed, moved, renumbered, same } = counts(a, b);
				expect(a.size - gone).equal(changed + moved + renumbered + same);
				expect(b.size - added).equal(a.size - gone);
			}),
			{ numRuns: 60 }
		);
	});

	it('is written a row for each thing, what was and what is beside it (csv-parse)', async () => {
		const before = await pieces(demoWith(3, 3));
		const project = demoWith(3, 3);
		project.masses[0]!.faces[0]!.marks = '{face}.{row}.{column}';
		const after = await pieces(project);
		const chunks: Uint8Array[] = [];
		writeChanges(comparePieces(before, after), (c) => chunks.push(Uint8Array.from(c)));
		const rows = parse<Record<string, string>>(Buffer.concat(chunks), { columns: true, record_delimiter: '\r\n' });
		expect(rows.length).equal(before.size);
		for (const row of rows) {
			expect(row).include({ Change: 'renumbered', What: 'Mark', Before: before.get(row.Key!)!.mark, After: row.Mark });
			expect(row.Mark).equal(after.get(row.Key!)!.mark);
		}
	});
});
