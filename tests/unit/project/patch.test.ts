import { expect } from 'chai';
import { diffProjects } from '../../../src/core/project/diff.ts';
import { applyPatch } from '../../../src/core/project/patch.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { demoProject, vaultOf } from '../demo.ts';

const edit = (change: (p: Project) => void, from = demoProject()) => {
	const after = structuredClone(from);
	change(after);
	return after;
};

describe('edits as JSON Patch (RFC 6902)', () => {
	it('leads from one project to the other and back, changing neither', () => {
		const before = demoProject();
		const after = edit((p) => {
			p.name = 'Other / name ~ here';
			vaultOf(p).sections.splice(1, 1);
			p.rules[0]!.values = { frameWidth: 75 };
		});
		expect(applyPatch(before, diffProjects(before, after))).deep.equal(after);
		expect(applyPatch(after, diffProjects(after, before))).deep.equal(before);
		expect(before).deep.equal(demoProject());
	});

	it('guards every step into a list by the id found there', () => {
		const before = demoProject();
		const patch = diffProjects(
			before,
			edit((p) => (p.masses[0]!.faces[0]!.name = 'Top'))
		);
		expect(patch).deep.equal([
			{ op: 'test', path: '/masses/0/id', value: 'canopy' },
			{ op: 'test', path: '/masses/0/faces/0/id', value: 'skin' },
			{ op: 'replace', path: '/masses/0/faces/0/name', value: 'Top' }
		]);
		const moved = edit((p) =>
			p.masses.unshift({ ...p.masses[0]!, id: 'new', faces: [{ ...p.masses[0]!.faces[0]!, mark: 'N1' }] })
		);
		expect(() => applyPatch(moved, patch)).throw('does not fit the project');
	});

	it('lets two edits of different places stand together', () => {
		const base = demoProject();
		const mine = diffProjects(
			base,
			edit((p) => (vaultOf(p).length = 80_000))
		);
		const theirs = diffProjects(
			base,
			edit((p) => (p.kits[0]!.name = 'Plain pane'))
		);
		const both = applyPatch(applyPatch(base, theirs), mine);
		expect([vaultOf(both).length, both.kits[0]!.name]).deep.equal([80_000, 'Plain pane']);
	});

	it('refuses a patch whose result is no sound project', () => {
		expect(() => applyPatch(demoProject(), [{ op: 'replace', path: '/masses/0/shape/length', value: -1 }])).throw(
			'must be at least 1 mm'
		);
		expect(() => applyPatch(demoProject(), [{ op: 'remove', path: '/nothing/here' }])).throw('does not fit');
	});

	it('does not reach for prototypes', () => {
		for (const path of [
			'/__proto__/polluted',
			'/masses/0/constructor/prototype/polluted',
			'/masses/__proto__/polluted'
		]) {
			expect(() => applyPatch(demoProject(), [{ op: 'add', path, value: true }])).throw('does not fit');
			expect(() => applyPatch(demoProject(), [{ op: 'copy', from: '/name', path }])).throw('does not fit');
			expect(({} as { polluted?: boolean }).polluted).undefined;
		}
	});
});
