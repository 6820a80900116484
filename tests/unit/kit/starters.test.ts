import { expect } from 'chai';
import { meshVolume } from '../../../src/core/kit/mesh.ts';
import { kitSchema } from '../../../src/core/kit/schema.ts';
import { STARTER_KITS } from '../../../src/core/kit/starters/index.ts';
import { drawKit } from '../../../src/core/placement/kitPicture.ts';
import { weighKit } from '../../../src/core/placement/kitWeight.ts';
import { hostsFor, limitValues, tryLimits } from '../../../src/core/placement/limits.ts';
import { runTrial } from '../../../src/core/placement/trial.ts';
import { STARTER_MATERIALS } from '../../../src/core/project/starterMaterials.ts';
import { kitOf, run, solids } from './make.ts';

const densities = Object.fromEntries(STARTER_MATERIALS.map((m) => [m.id, m.density]));

describe('starter kits', () => {
	for (const kit of STARTER_KITS)
		it(`${kit.id} stands on its trial hosts, has a picture and weighs something`, async () => {
			expect(kitSchema.parse(JSON.parse(JSON.stringify(kit)))).deep.equal(kit);
			expect(kit.help).not.equal('');
			const [first, ...others] = hostsFor(kit);
			const trial = runTrial(kit, {}, first!, { densities, solids: await solids() });
			expect(trial.error).equal(undefined);
			expect(trial.failures).deep.equal([]);
			expect(trial.parts.reduce((n, p) => n + p.mass, 0)).greaterThan(0);
			expect(drawKit(trial).light.length).greaterThan(1);
			for (const host of others)
				expect(runTrial(kit, {}, host, { densities, solids: await solids() }).error, host.label).equal(undefined);
		});

	it('weigh by the densities of the standards: glass 2.5 kg/m2 for each mm (EN 572-1), steel 7850 (EN 1993-1-1), stainless 7900 kg/m3 (EN 10088-1), all from memory', async () => {
		const mass = async (
			id: string,
			given: Record<string, number | string>,
			points: readonly (readonly [number, number, number])[],
			part: string
		) => {
			const kit = STARTER_KITS.find((k) => k.id === id)!;
			return runTrial(
				kit,
				given,
				{ id: 'x', label: 'x', kind: kit.host.kind, points },
				{ densities, solids: await solids() }
			).parts.find((p) => p.step === part)!.mass;
		};
		const square = [
			[0, 0, 0],
			[1000, 0, 0],
			[1000, 0, 1000],
			[0, 0, 1000]
		] as const;
		expect(await mass('flat-pane', { joint: 0, paneThickness: 12 }, square, 'pane')).closeTo(30, 1e-9);
		const upright = [
			[0, 0, 0],
			[0, 0, 3000]
		] as const;
		// A tube of 76.1 x 5: pi (76.1 - 5) 5 mm2 of steel over 3 m.
		expect(await mass('round-mullion', { diameter: 76.1, wall: 5, cutBack: 0 }, upright, 'mullion')).closeTo(
			Math.PI * (76.1 - 5) * 5 * 3000 * 7850e-9,
			1e-6
		);
		// A box section of 100 x 50 x 4: (100 x 50 - 92 x 42) mm2 over 3 m.
		expect(
			await mass('mullion', { width: 100, depth: 50, wall: 4, cutBack: 0, finish: 'stainless' }, upright, 'mullion')
		).closeTo((100 * 50 - 92 * 42) * 3000 * 7900e-9, 1e-6);
	});

	it('weigh what such things weigh (practice): told beside their pictures', async () => {
		// kg/m2 of facade, kg/m of member, kg at a node.
		const believable: Record<string, [number, number]> = {
			'flat-pane': [28, 31],
			'framed-pane': [25, 45],
			cassette: [8, 14],
			'ratio-opening': [15, 35],
			'folded-panel': [8, 20],
			pyramid: [8, 14],
			'glazed-triangle': [40, 80],
			'louver-bank': [8, 35],
			'vertical-fin': [3, 12],
			'egg-crate': [8, 30],
			mullion: [2, 5],
			'tee-mullion': [10, 20],
			// A box of 120 x 120 x 4 of aluminium.
			'corner-mullion': [4.5, 5.5],
			'round-mullion': [8, 13],
			'node-disc': [3, 10],
			// A box of 60 x 150 x 3 of aluminium; a plate of 15 mm of steel with arms of 180 mm; a round bar of 140 x 160 with slots.
			'mitred-mullion': [2.5, 4],
			'arm-plate': [3, 7],
			'slotted-hub': [14, 19],
			// 3 mm of aluminium, a little more than its plan, with rods of 40 mm of steel on its folds; glass of 12 mm in a massive frame.
			'folded-bay': [15, 30],
			'glazed-bay': [25, 80],
			'spider-bracket': [2, 12],
			'path-tube': [10, 15],
			// 80 x 200 of timber; 16 mm of steel with clamps of 0.9 kg; 300 x 6 of aluminium; balls of 7.1 kg every half metre or so.
			// A solid bar of 90 mm of steel.
			'joined-frame': [48, 52],
			// A tube of 76 x 5: 8.8 kg/m; eight-tenths of a metre of it at a node, and four over a square metre or two.
			'layer-chord': [8, 9],
			'layer-chord-upper': [8, 9],
			'layer-chord-middles': [8, 9],
			'layer-rising': [8, 9],
			'layer-post': [6, 8],
			'layer-web': [10, 60],
			'path-rib': [7, 12],
			'path-cable': [2, 4],
			'path-fin': [4, 6],
			'path-balls': [7, 16],
			rods: [1.5, 2.5],
			'space-frame-bay': [15, 60],
			lattice: [8, 40],
			'perforated-screen': [5, 11],
			'hollowed-block': [200, 620]
		};
		for (const kit of STARTER_KITS) {
			const host = hostsFor(kit)[0]!;
			const { value } = weighKit(runTrial(kit, {}, host, { densities, solids: await solids() }), host);
			expect(value, `${kit.id} ${value}`).within(...believable[kit.id]!);
		}
		const square = {
			kind: 'cell',
			points: [
				[0, 0, 0],
				[2000, 0, 0],
				[2000, 0, 1000],
				[0, 0, 1000]
			]
		} as const;
		expect(weighKit({ parts: [{ mass: 60 }] as never }, square)).deep.equal({ value: 30, per: 'area' });
		expect(
			weighKit({ parts: [{ mass: 60 }] as never }, { kind: 'path', closed: true, points: square.points }).value
		).closeTo(10, 1e-12);
		expect(weighKit({ parts: [{ mass: 60 }] as never }, { kind: 'node', points: square.points })).deep.equal({
			value: 60,
			per: 'piece'
		});
	});

	it('know only materials that come with them', () => {
		for (const kit of STARTER_KITS) {
			const own = kit.parameters.flatMap((p) => (p.quantity === 'material' ? [p.name, p.default] : []));
			for (const step of kit.steps)
				if ('material' in step) expect([...Object.keys(densities), ...own]).include(step.material);
			for (const p of kit.parameters) if (p.quantity === 'material') expect(Object.keys(densities)).include(p.default);
		}
	});

	it('make closed bodies of bars, plates, blades and modules, turned the right way', async () => {
		for (const [id, part] of [
			['mullion', 'mullion'],
			['tee-mullion', 'mullion'],
			['louver-bank', 'louvers'],
			['ratio-opening', 'plate'],
			['hollowed-block', 'body'],
			['egg-crate', 'rising'],
			['path-tube', 'tube'],
			['space-frame-bay', 'centreNode']
		] as const) {
			const kit = STARTER_KITS.find((k) => k.id === id)!;
			const made = await run(kit, hostsFor(kit)[0]!);
			const drawn = made.meshes(part).reduce((sum, mesh) => sum + meshVolume(mesh), 0);
			expect(drawn / made.total(part, 'volume'), id).within(0.9, 1.05);
		}
	});

	it('let the height of the folded panel follow the area of the cell, between its limits', async () => {
		const kit = STARTER_KITS.find((k) => k.id === 'folded-panel')!;
		const [square, , , , small] = hostsFor(kit);
		expect((await run(kit, square!)).value('height')).closeTo(0.25 * 1500, 1e-9);
		expect((await run(kit, small!)).value('height')).closeTo(0.25 * Math.sqrt(220 * 180), 1e-9);
		const huge = {
			kind: 'cell',
			points: square!.points.map((p) => p.map((x) => x * 20) as unknown as typeof p)
		} as const;
		const held = await run(kit, huge);
		expect(held.value('height')).equal(1500);
		expect([...held.result.clamped]).deep.equal([['height', 1]]);
		// A value that is given holds instead of the formula.
		expect((await run(kit, square!, { height: 90 })).line('raised')[0]![1]).closeTo(-90, 1e-9);
	});
});

describe('trying the limits', () => {
	it('lists what fails, with the host and the values, and stops when asked', async () => {
		const kit = STARTER_KITS.find((k) => k.id === 'framed-pane')!;
		const report = await tryLimits(kit, { densities }, [], async () => true);
		expect(report.runs).equal(limitValues(kit).length * hostsFor(kit).length);
		const swallowed = report.faults.find((f) => f.step === 'inner' && f.values.frameWidth === 2000)!;
		expect(swallowed.what).match(/nothing is left inside/);
		expect(runTrial(kit, swallowed.values, swallowed.host, { densities }).failures[0]!.step).equal('inner');
		let clock = 0;
		const stopped = await tryLimits(kit, { densities, now: () => (clock += 30) }, [], async () => false);
		expect(stopped.runs).lessThan(report.runs);
	});

	it('finds lines that cross themselves and parts without area', async () => {
		const crossed = kitOf(
			[
				...[1, 2, 3, 4].map((k) => ({ kind: 'corner', name: `c${k}`, corner: k }) as const),
				{ kind: 'line', name: 'bow', through: ['c1', 'c2', 'c4', 'c3'], closed: true },
				{ kind: 'line', name: 'flat', through: ['c1', 'c2', 'c1'], closed: true },
				{ kind: 'sheet', name: 'nothing', role: 'panel', material: 'glass', outline: 'flat', thickness: 1 }
			],
			[],
			{ kind: 'cell', leastCorners: 4, greatestCorners: 4 }
		);
		const { faults } = await tryLimits(crossed, { densities }, [], async () => true);
		expect(faults.some((f) => f.step === 'bow' && f.what === 'the line crosses itself')).true;
		expect(faults.some((f) => f.step === 'nothing' && f.what === 'the part has no area')).true;
	});

	it('finds lengths below 0', async () => {
		const kit = kitOf(
			[
				{ kind: 'outline', name: 'outline' },
				{ kind: 'value', name: 'rest', quantity: 'length', value: 'width - 1000 mm' }
			],
			[],
			{ kind: 'cell', leastCorners: 4, greatestCorners: 4 }
		);
		const { faults } = await tryLimits(kit, { densities }, [], async () => true);
		expect(faults.map((f) => [f.host.id, f.step, f.what])).deep.include(['small', 'rest', 'the length is below 0']);
		expect(faults.some((f) => f.host.id === 'square')).false;
	});

	it('has the values of each parameter at both ends', () => {
		const kit = kitOf(
			[{ kind: 'outline', name: 'outline' }],
			[
				{ quantity: 'length', name: 'a', label: 'A', default: 5, least: 1, greatest: 9 },
				{ quantity: 'choice', name: 'b', label: 'B', choices: ['x', 'y', 'z'], default: 1 },
				{ quantity: 'text', name: 't', label: 'T' }
			]
		);
		const sets = limitValues(kit).map((s) => JSON.stringify(s));
		for (const set of [{}, { a: 1 }, { a: 9 }, { b: 0 }, { b: 2 }, { a: 1, b: 0 }, { a: 9, b: 2 }])
			expect(sets).include(JSON.stringify(set));
	});
});
