import { expect } from 'chai';
import { STEP_KIND_NAMES, STEP_KINDS } from '../../../src/core/kit/stepKinds.ts';
import { kitSchema } from '../../../src/core/kit/schema.ts';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import { completionsFor } from '../../../src/lib/editor/completions.ts';
import { newParameter, PARAMETER_KINDS } from '../../../src/lib/editor/kitParameters.ts';
import {
	freeWord,
	hostInWords,
	newStep,
	renameInKit,
	shownBy,
	stepInWords,
	usersOfStep
} from '../../../src/lib/editor/kitSteps.ts';
import { duplicateKit, HOST_KINDS, holdersOf, newKit, removeKit } from '../../../src/lib/editor/kits.ts';
import { compileKit } from '../../../src/core/kit/compileKit.ts';
import { checkDocument } from '../../../src/core/project/read.ts';
import { shippedDemo } from '../demo.ts';

const kitNamed = (id: string) => structuredClone(STARTER_KITS.find((k) => k.id === id)!);

describe('editing the steps of a kit', () => {
	it('renames a step or parameter wherever it is mentioned, and the kit still makes the same', () => {
		const kit = kitNamed('louver-bank');
		renameInKit(kit, 'inner', 'clear');
		renameInKit(kit, 'bladeDepth', 'deep');
		renameInKit(kit, 'finish', 'metal');
		const text = JSON.stringify(kit.steps);
		expect(text).not.match(/"inner"|bladeDepth|"finish"/);
		expect(kit.steps.find((s) => s.name === 'freeArea')).deep.include({
			value: 'max(0, 1 - (deep * sin(abs(tilt)) + bladeThickness * cos(tilt)) / pitch)'
		});
		expect(() => compileKit(kitSchema.parse(kit), { kind: 'cell', corners: 4 })).not.throw();
	});

	it('finds free names and who takes from a step', () => {
		const kit = kitNamed('framed-pane');
		expect(freeWord(kit, 'pane')).equal('pane2');
		expect(freeWord(kit, 'lid')).equal('lid');
		expect(usersOfStep(kit.steps, 'inner')).deep.equal(['sunk', 'frame', 'reveal']);
	});

	it('adds a step of every kind with what fits to start from', () => {
		const kit = kitNamed('spider-bracket');
		const cell = kitNamed('louver-bank');
		for (const kind of STEP_KIND_NAMES) {
			const host =
				STEP_KINDS[kind].fields.mould || kind === 'combine'
					? kitNamed('hollowed-block')
					: kind === 'ball' || kind === 'box' || kind === 'solid'
						? kit
						: cell;
			const steps = kind === 'combine' || kind === 'module' ? host.steps : host.steps.filter((s) => s.on === undefined);
			let step;
			try {
				step = newStep(host, steps, kind, { material: 'aluminium', kit: 'flat-pane' });
			} catch (cause) {
				expect((cause as Error).message, kind).match(/needs a .* to start from/);
				continue;
			}
			expect(step.kind).equal(kind);
			expect(stepInWords(step, 'mm'), kind).a('string');
		}
	});

	it('knows what shows a step in the picture', () => {
		const block = kitNamed('hollowed-block');
		expect(shownBy(block.steps, 'block')).deep.equal(['body']);
		expect(shownBy(kitNamed('framed-pane').steps, 'inner')).deep.equal(['inner']);
		expect(shownBy(kitNamed('rods').steps, 'bay')).deep.equal(['span', 'axis', 'rods']);
		expect(shownBy(block.steps, undefined)).deep.equal([]);
		// Bodies that lead in a circle are shown by nothing.
		const circle = kitSchema.parse({
			...block,
			steps: [
				{ kind: 'combine', name: 'p', of: ['q', 'q'] },
				{ kind: 'combine', name: 'q', of: ['p', 'p'] }
			]
		});
		expect(shownBy(circle.steps, 'p')).deep.equal([]);
	});

	it('says steps and hosts in words', () => {
		const kit = kitNamed('framed-pane');
		expect(kit.steps.map((s) => stepInWords(s, 'mm'))).deep.equal([
			'',
			'outline · frameWidth',
			'inner · recess · inside',
			'aluminium · outline · inner · frameThickness',
			'aluminium · inner · sunk · frameThickness',
			'glass · sunk · paneThickness'
		]);
		const words = (id: string) => hostInWords(STARTER_KITS.find((k) => k.id === id)!);
		expect(
			[
				'mullion',
				'node-disc',
				'spider-bracket',
				'path-tube',
				'rods',
				'layer-chord-upper',
				'layer-rising',
				'layer-web'
			].map(words)
		).deep.equal([
			'all edges',
			'all nodes',
			'nodes inside',
			'paths across',
			'paths up',
			'all edges, on the second layer',
			'all edges, from the face up to the second layer',
			'cells with depth of 3 corners or more'
		]);
	});

	it('offers parameters, numbers of pieces, readings and functions to formulas', () => {
		const kit = kitNamed('lattice');
		const names = completionsFor(kit, kit.steps, 'grid').map((c) => c.label);
		for (const name of ['barWidth', 'i', 'rows', 'area', 'edge1', 'length', 'clamp', 'deg', 'size'])
			expect(names).include(name);
		expect(completionsFor(kit, kit.steps, undefined).map((c) => c.label)).not.include('rows');
	});

	it('makes parameters of every kind that a kit takes', () => {
		const kit = kitNamed('flat-pane');
		for (const [quantity] of PARAMETER_KINDS) kit.parameters.push(newParameter(kit, quantity, 'glass'));
		expect(kitSchema.parse(kit)).deep.equal(kit);
	});
});

describe('kits of a project', () => {
	it('are made new, copied and removed with the rules that place them', () => {
		const project = shippedDemo();
		for (const kind of Object.keys(HOST_KINDS) as (keyof typeof HOST_KINDS)[]) newKit(project, kind);
		const copy = duplicateKit(project, 'framed-pane');
		checkDocument(JSON.parse(JSON.stringify(project)));
		expect(holdersOf(project, 'framed-pane')).include('Canopy › Roof skin');
		expect(holdersOf(project, copy)).deep.equal([]);
		removeKit(project, 'framed-pane');
		expect(project.rules.some((r) => r.kit === 'framed-pane')).false;
		checkDocument(JSON.parse(JSON.stringify(project)));
	});
});
