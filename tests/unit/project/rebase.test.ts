import { expect } from 'chai';
import fc from 'fast-check';
import { removeMass } from '../../../src/lib/editor/masses.ts';
import { applyPatch, changeWithPatches, type Changed } from '../../../src/core/project/patch.ts';
import { ClashError, rebase, touchesSame } from '../../../src/core/project/rebase.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { shippedDemo } from '../demo.ts';

type Change = (draft: Project) => void;
const base = shippedDemo();
const made = (change: Change, from = base): Changed => changeWithPatches(from, change);

/** Mine on top of theirs, both made on the demo. */
const both = (mine: Change, theirs: Change): Project => {
	const other = made(theirs);
	return rebase(other.project, made(mine).patch, [other.patch], base).project;
};
const clash = (mine: Change, theirs: Change): ClashError => {
	try {
		both(mine, theirs);
	} catch (cause) {
		if (cause instanceof ClashError) return cause;
		throw cause;
	}
	throw new Error('they did not clash');
};

/** Changes of one place each, by what they are about; two of different names never touch the same. */
const CHANGES: Readonly<Record<string, Change>> = {
	name: (p) => (p.name = 'Another quay'),
	units: (p) => (p.units = 'm'),
	firstMass: (p) => (p.masses[0]!.name = 'Renamed first'),
	lastMass: (p) => (p.masses.at(-1)!.frame.x += 10),
	face: (p) => (p.masses[1]!.faces[0]!.name = 'Renamed face'),
	newLevel: (p) => void p.levels.push({ id: 'attic', name: 'Attic', height: 90_000 }),
	firstLevel: (p) => void p.levels.unshift({ id: 'cellar', name: 'Cellar', height: -9000 }),
	material: (p) => (p.materials[0]!.density += 1),
	order: (p) => void p.materials.push(...p.materials.splice(1, 1)),
	newMaterial: (p) =>
		void p.materials.splice(1, 0, { id: 'reed', name: 'Reed', density: 200, colour: '#998844', opacity: 1 }),
	kit: (p) => (p.kits.at(-1)!.help = 'Told anew'),
	noRule: (p) => void p.rules.splice(p.rules.length - 1, 1),
	zone: (p) => void p.zones.push({ id: 'z-new', name: 'Z', colour: '#112233', parts: [] })
};

describe('edits of two people', () => {
	it('of different places stand together in either order, whatever they do to the lists they share (property)', () =>
		fc.assert(
			fc.property(fc.shuffledSubarray(Object.keys(CHANGES), { minLength: 2, maxLength: 5 }), ([one, ...others]) => {
				const mine = made(CHANGES[one!]!);
				let theirs = base;
				const patches = others.map((name) => {
					const next = made(CHANGES[name]!, theirs);
					theirs = next.project;
					return next.patch;
				});
				const { project, patch } = rebase(theirs, mine.patch, patches, base);
				// The other way around: what all of them mean, made one after the other on one document.
				const expected = made((draft) => [...others, one!].forEach((name) => CHANGES[name]!(draft))).project;
				const inOrder = (p: Project) => ({
					...p,
					...Object.fromEntries(
						(['levels', 'materials', 'zones'] as const).map((l) => [l, p[l].toSorted((a, b) => (a.id < b.id ? -1 : 1))])
					)
				});
				expect(inOrder(project)).deep.equal(inOrder(expected));
				expect(applyPatch(theirs, patch)).deep.equal(project);
			}),
			{ numRuns: 150 }
		));

	it('find elements of lists again by their ids', () => {
		const result = both(
			(p) => (p.levels.at(-1)!.name = 'Mine'),
			(p) => p.levels.unshift({ id: 'cellar', name: 'Cellar', height: -9000 })
		);
		expect(result.levels.at(-1)!.name).equal('Mine');
		expect(result.levels.map((l) => l.id)).deep.equal(['cellar', ...base.levels.map((l) => l.id)]);
	});

	it('put what is added behind the same neighbour', () => {
		const result = both(
			(p) => p.levels.splice(1, 0, { id: 'mezzanine', name: 'Mezzanine', height: 2000 }),
			(p) => p.levels.unshift({ id: 'cellar', name: 'Cellar', height: -9000 })
		);
		expect(result.levels.map((l) => l.id)).deep.equal([
			'cellar',
			base.levels[0]!.id,
			'mezzanine',
			...base.levels.slice(1).map((l) => l.id)
		]);
	});

	it('clash where both change one value, and both sides are told in words', () => {
		const { clashes } = clash(
			(p) => (p.masses[0]!.frame.x = 1234),
			(p) => (p.masses[0]!.frame.x = -50)
		);
		expect(clashes).deep.equal([{ place: `${base.masses[0]!.name} › frame › x`, mine: '1 234', theirs: '−50' }]);
	});

	it('do not clash where both say the same', () => {
		const same: Change = (p) => (p.masses[0]!.frame.x = 1234);
		expect(both(same, same).masses[0]!.frame.x).equal(1234);
	});

	it('clash where one is about what the other has removed', () => {
		const { clashes, message } = clash(
			(p) => (p.zones[0]!.name = 'Mine'),
			(p) => p.zones.splice(0, 1)
		);
		expect(message).contains(base.zones[0]!.name);
		expect(clashes[0]!.theirs).equal('removed');
		expect(
			clash(
				(p) => p.zones.splice(0, 1),
				(p) => (p.zones[0]!.name = 'Theirs')
			).clashes[0]
		).include({ mine: 'removed' });
	});

	it('clash where together they are no sound project', () => {
		expect(
			clash(
				(p) => (p.masses[0]!.faces[0]!.mark = 'ZZ'),
				(p) => (p.masses[1]!.faces[0]!.mark = 'ZZ')
			).message
		).contains('“ZZ” is already the mark of');
	});

	it('of lists without ids clash where one puts something in', () => {
		const mass = base.masses.findIndex((m) => m.shape.kind === 'vault');
		const sections = (p: Project) =>
			(p.masses[mass]!.shape as Extract<Project['masses'][number]['shape'], { kind: 'vault' }>).sections;
		const middle = { ...sections(base)[0]!, at: 0.013 };
		expect(() =>
			both(
				(p) => (sections(p).at(-1)!.lean += 0.001),
				(p) => void sections(p).splice(1, 0, middle)
			)
		).throw(ClashError);
		// Of the same list, two places that stay where they are do not.
		const { shape } = both(
			(p) => (sections(p)[0]!.rise += 1),
			(p) => (sections(p).at(-1)!.span += 1)
		).masses[mass]!;
		const now = (shape as { sections: { rise: number; span: number }[] }).sections;
		expect([now[0]!.rise, now.at(-1)!.span]).deep.equal([sections(base)[0]!.rise + 1, sections(base).at(-1)!.span + 1]);
	});

	it('are told apart by what they touch', () => {
		const rename = made((p) => (p.masses[0]!.name = 'a')).patch;
		expect(touchesSame(rename, made((p) => (p.masses[0]!.name = 'b')).patch)).to.be.true;
		expect(touchesSame(rename, made((p) => (p.masses[1]!.name = 'b')).patch)).to.be.false;
		expect(touchesSame(rename, made((p) => removeMass(p, p.masses[0]!.id)).patch)).to.be.true;
	});

	it('of a program that names places by numbers alone clash where the list has changed', () => {
		const theirs = made((p) => p.levels.unshift({ id: 'cellar', name: 'Cellar', height: -9000 }));
		const byNumber = [{ op: 'replace' as const, path: '/levels/0/name', value: 'x' }];
		expect(() => rebase(theirs.project, byNumber, [theirs.patch], base)).throw(ClashError);
		const elsewhere = made((p) => (p.name = 'Else'));
		expect(rebase(elsewhere.project, byNumber, [elsewhere.patch], base).project.levels[0]!.name).equal('x');
	});
});
