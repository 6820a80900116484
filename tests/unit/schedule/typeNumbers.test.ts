import { expect } from 'chai';
import fc from 'fast-check';
import { demoProject, ranDemo, run, shippedDemo, vaultOf } from '../demo.ts';
import { fixNumbers, hashOfKey, numberTypes } from '../../../src/core/schedule/types/fixedNumbers.ts';
import { fixedNumbers, pieceTypes, typesByTolerance } from '../../../src/core/schedule/types/pieceTypes.ts';
import { typeSettingsSchema, USUAL_TYPES } from '../../../src/core/schedule/types/schema.ts';
import { classTolerance } from '../../../src/core/schedule/types/tolerance.ts';

describe('numbers of types', () => {
	it('hash keys as FNV-1a does (test vectors of its authors; memory)', () => {
		expect(['', 'a', 'foobar'].map((k) => hashOfKey(k).toString(16))).deep.equal(['811c9dc5', 'e40c292c', 'bf9cf968']);
	});

	it('go by frequency where none is fixed, letter by letter', () => {
		expect(numberTypes(['P', 'G', 'P', 'X'], {}, () => [])).deep.equal(['P-001', 'G-001', 'P-002', 'X-001']);
	});

	it('stay with most of the pieces, are not used twice, and new ones go on behind the last', () => {
		const fixed = fixNumbers(['P-001', 'P-002', 'P-007', 'G-003'], (t) => [[1, 2, 3, 4], [5, 6, 7], [8, 9], [20]][t]!);
		const now = (types: number[][], letters = types.map(() => 'P')) => numberTypes(letters, fixed, (t) => types[t]!);
		expect(
			now([
				[5, 6],
				[1, 2, 3],
				[8, 9]
			])
		).deep.equal(['P-002', 'P-001', 'P-007']);
		// Half is not most.
		expect(now([[1, 2], [3, 4], [5]])).deep.equal(['P-008', 'P-009', 'P-002']);
		// Two that have become one keep the number of the larger; what has gone is not used again.
		expect(now([[1, 2, 3, 5, 6], [30]])).deep.equal(['P-001', 'P-008']);
		// Another role has numbers of its own.
		expect(now([[20, 1, 2, 3]], ['G'])).deep.equal(['G-003']);
	});

	it('are never given twice, and fixed ones come back as they were (property)', () => {
		const types = fc.array(fc.uniqueArray(fc.nat(60), { minLength: 1, maxLength: 12 }), { maxLength: 12 });
		fc.assert(
			fc.property(types, types, (before, after) => {
				const parted = (list: number[][]) => {
					const taken = new Set<number>();
					return list.map((t) => t.filter((h) => !taken.has(h) && taken.add(h)));
				};
				const [then, now] = [parted(before), parted(after)];
				const first = numberTypes(
					then.map(() => 'P'),
					{},
					() => []
				);
				const fixed = fixNumbers(first, (t) => then[t]!);
				const marks = numberTypes(
					now.map(() => 'P'),
					fixed,
					(t) => now[t]!
				);
				expect(new Set(marks).size).equal(marks.length);
				then.forEach((pieces, t) => {
					if (pieces.length)
						expect(
							numberTypes(
								then.map(() => 'P'),
								fixed,
								(n) => then[n]!
							)[t]
						).equal(first[t]);
				});
				expect(typeSettingsSchema.parse({ fixed }).fixed).deep.equal(fixed);
			})
		);
	});

	it('of the demo outlive a change of its canopy, and are the same when nothing changes', async () => {
		const { model } = await ranDemo();
		const before = pieceTypes(model.faces);
		const fixed = fixedNumbers(model.faces, before);
		const again = pieceTypes(model.faces, { ...USUAL_TYPES, fixed });
		expect(again.types.map((t) => t.mark)).deep.equal(before.types.map((t) => t.mark));
		// Only what is on the canopy may be numbered anew where only the canopy is another.
		const project = shippedDemo();
		vaultOf(project).sections[0]!.rise += 150;
		const changed = (await run(project)).faces;
		const after = pieceTypes(changed, { ...USUAL_TYPES, fixed });
		expect(new Set(after.types.map((t) => t.mark)).size).equal(after.types.length);
		const markAt = ({ types, typeOf }: typeof before, f: number, r: number) => types[typeOf[f]![r]!]?.mark;
		let kept = 0;
		model.faces.forEach((face, f) => {
			if (face.key.startsWith(`${project.masses[0]!.id}/`)) return;
			before.typeOf[f]!.forEach((_, r) => {
				const members = before.typeOf.every((list, g) => g === f || !list.includes(before.typeOf[f]![r]!));
				if (!members) return;
				kept++;
				expect(markAt(after, f, r)).equal(markAt(before, f, r));
			});
		});
		expect(kept).greaterThan(1000);
	});
});

describe('types along the order', () => {
	it('are numbered as their first pieces come, letter by letter', async () => {
		const { model } = await ranDemo();
		const { types, typeOf } = pieceTypes(model.faces, { ...USUAL_TYPES, numbered: 'order' });
		const last: Record<string, number> = {};
		const seen = new Set<number>();
		for (const t of typeOf.flatMap((list) => [...list])) {
			if (t < 0 || seen.has(t)) continue;
			seen.add(t);
			const [letter, number] = types[t]!.mark.split('-') as [string, string];
			last[letter] = (last[letter] ?? 0) + 1;
			expect(Number(number)).equal(last[letter]);
		}
		expect(seen.size).equal(types.length);
	});
});

describe('tolerances of types', () => {
	it('know the classes of ISO 2768-1, table 1 (memory)', () => {
		const at = (name: Parameters<typeof classTolerance>[0]) => [5, 100, 700, 3000, 9000].map(classTolerance(name));
		expect(at('fine')).deep.equal([0.05, 0.15, 0.3, 0.5, 0.5]);
		expect(at('coarse')).deep.equal([0.3, 0.8, 2, 4, 4]);
		expect(at('very coarse')).deep.equal([0.5, 1.5, 4, 8, 8]);
	});

	it('hold for one role and leave others alone; a looser one never makes more types of it', async () => {
		const { model } = await ranDemo();
		const count = (role: string, tolerance: number | 'fine' | 'coarse') => {
			const { types } = pieceTypes(model.faces, {
				rules: [{ role, tolerance, mirrored: false }],
				fixed: {},
				numbered: 'frequency'
			});
			return { of: types.filter((t) => t.role === role).length, others: types.filter((t) => t.role !== role).length };
		};
		const usual = pieceTypes(model.faces).types;
		const roles = ['pane', 'mullion'];
		for (const role of roles) {
			const own = usual.filter((t) => t.role === role).length;
			expect(count(role, 'coarse').of).most(own);
			expect(count(role, 50).of).lessThan(own);
			expect(count(role, 50).others).equal(usual.length - own);
		}
		const settings = {
			rules: [{ role: 'pane', tolerance: 50, mirrored: false }],
			fixed: {},
			numbered: 'frequency' as const
		};
		expect(typesByTolerance(model.faces, settings, [1])).deep.equal([pieceTypes(model.faces, settings).types.length]);
	});

	it('take mirror images for one type where the role says so: a mirrored mass brings none of its own', async () => {
		const alone = demoProject();
		const both = structuredClone(alone);
		const twin = structuredClone(both.masses[0]!);
		twin.id = 'twin';
		twin.frame = { ...twin.frame, y: twin.frame.y + 60_000, mirrored: !twin.frame.mirrored };
		both.masses.push(twin);
		for (const rule of both.rules) rule.faces.push(...rule.faces.map((f) => f.replace(/^[^/]+/, 'twin')));
		const rules = ['pane', 'frame'].map((role) => ({ role, tolerance: 'medium' as const, mirrored: true }));
		const [one, two] = [await run(alone), await run(both)];
		expect(two.faces.length).equal(2 * one.faces.length);
		const counts = (faces: typeof one.faces, settings: typeof USUAL_TYPES) => {
			const { types } = pieceTypes(faces, settings);
			return rules.map(({ role }) => types.filter((t) => t.role === role).map((t) => t.count));
		};
		const settings = { ...USUAL_TYPES, rules };
		const [first, second] = [counts(one.faces, settings), counts(two.faces, settings)];
		expect(first.flat().length).greaterThan(5);
		expect(second.map((c) => c.length)).deep.equal(first.map((c) => c.length));
		expect(second).deep.equal(first.map((list) => list.map((n) => 2 * n)));
		expect(counts(two.faces, USUAL_TYPES).flat().length).greaterThan(first.flat().length);
	});
});
