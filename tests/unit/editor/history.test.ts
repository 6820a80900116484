import { expect } from 'chai';
import { History } from '../../../src/lib/editor/history.ts';
import { addMass, removeMass } from '../../../src/lib/editor/masses.ts';
import { freeName } from '../../../src/lib/editor/names.ts';
import { addRule, changeKit, removeRule, setRuleValue } from '../../../src/lib/editor/placement.ts';
import { addBetween } from '../../../src/lib/editor/sections.ts';
import { changeWithPatches } from '../../../src/core/project/patch.ts';
import { checkDocument } from '../../../src/core/project/read.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { demoProject, vaultOf } from '../demo.ts';

function edit(history: History, before: Project, label: string, change: (p: Project) => void): Project {
	const changed = changeWithPatches(before, change);
	history.record(label, changed);
	return changed.project;
}

describe('undo and redo', () => {
	it('walks back and forth through edits, and forgets what was undone at a new edit', () => {
		const history = new History();
		const a = demoProject();
		const b = edit(history, a, 'Longer', (p) => (vaultOf(p).length = 80_000));
		const c = edit(history, b, 'Rename', (p) => (p.name = 'Other'));
		const back = history.undo(c)!;
		expect([back.label, back.project]).deep.equal(['Undo: Rename', b]);
		expect(history.undo(b)!.project).deep.equal(a);
		expect(history.undo(a)).undefined;
		expect(history.redo(a)!.project).deep.equal(b);
		expect(history.redoLabel).equal('Rename');
		edit(history, b, 'Again', (p) => (p.name = 'Third'));
		expect(history.redoLabel).undefined;
	});

	it('leaves the edits of others alone, and says so when it cannot', () => {
		const history = new History();
		const mine = edit(history, demoProject(), 'Longer', (p) => (vaultOf(p).length = 80_000));
		const withTheirs = { ...mine, name: 'Theirs' };
		const undone = history.undo(withTheirs)!.project;
		expect([undone.name, vaultOf(undone).length]).deep.equal(['Theirs', 72_000]);
		const again = history.redo(undone)!.project;
		expect(() => history.undo({ ...again, masses: [] })).throw('has been removed meanwhile');
	});

	it('undoes in lists that others have changed, and never over what they changed at the same place', () => {
		const history = new History();
		const mine = edit(history, demoProject(), 'Denser', (p) => (p.materials.at(-1)!.density = 1234));
		const before = demoProject().materials.at(-1)!.density;
		const theirs = changeWithPatches(
			mine,
			(p) => void p.materials.splice(0, 1, ...p.materials.slice(0, 1), { ...p.materials[0]!, id: 'new', name: 'New' })
		);
		history.hear('Add material', theirs.patch);
		const undone = history.undo(theirs.project)!.project;
		expect([undone.materials.at(-1)!.density, undone.materials[1]!.id]).deep.equal([before, 'new']);
		const redone = history.redo(undone)!.project;
		const over = changeWithPatches(redone, (p) => (p.materials.at(-1)!.density = 999));
		history.hear('Lighter', over.patch);
		expect(() => history.undo(over.project)).throw('would take back “Lighter” too');
		// What is kept through a reload remembers it.
		const later = new History();
		later.restore(JSON.parse(JSON.stringify(history.state)));
		expect(() => later.undo(over.project)).throw('would take back “Lighter” too');
	});
});

describe('changes of a project', () => {
	it('adds and removes masses so that the project stays sound', () => {
		const project = demoProject();
		const keys = [addMass(project, 'vault'), addMass(project, 'dome')];
		expect(keys).deep.equal(['mass-1/skin', 'mass-2/skin']);
		expect(checkDocument(project).masses.map((m) => m.faces[0]!.mark)).deep.equal(['C1', 'M1', 'M2']);
		removeMass(project, 'mass-1');
		expect(checkDocument(project).rules.map((r) => r.faces)).deep.equal([['canopy/skin'], ['mass-2/skin']]);
		expect(freeName('x', ['x-1', 'x-3'])).equal('x-2');
	});

	it('adds a section between two others, also after the last', () => {
		const { sections } = vaultOf(demoProject());
		expect(addBetween(sections, 0)).equal(1);
		expect(sections[1]!.at).closeTo(0.17, 1e-12);
		expect(addBetween(sections, 4)).equal(4);
		expect(sections.map((s) => s.at)).deep.equal([...sections.map((s) => s.at)].sort());
	});

	it('changes and removes the kit of a face, keeping the values that both kits know', () => {
		const project = demoProject();
		setRuleValue(project, 'rule-1', 'paneThickness', 20);
		setRuleValue(project, 'rule-1', 'recess', 50);
		setRuleValue(project, 'rule-1', 'recess');
		expect(project.rules[0]!.values).deep.equal({ paneThickness: 20 });
		setRuleValue(project, 'rule-1', 'recess', 50);
		changeKit(project, 'rule-1', 'flat-pane');
		expect(checkDocument(project).rules[0]!.values).deep.equal({ paneThickness: 20 });
		removeRule(project, 'rule-1');
		expect(project.rules).deep.equal([]);
		addRule(project, { set: 'panels', faces: ['canopy/skin'], kit: 'framed-pane' });
		expect(checkDocument(project).rules.length).equal(1);
	});
});
