import { expect } from 'chai';
import fc from 'fast-check';
import { checkDocument } from '../../../src/core/project/read.ts';
import {
	addOpening,
	copyOpening,
	drawnCircle,
	drawnOpening,
	drawnRectangle,
	moveOpening,
	removeOpening
} from '../../../src/lib/editor/openings.ts';
import { parsePoints, printPoints } from '../../../src/lib/editor/pointList.ts';
import { removeLevel } from '../../../src/lib/editor/levels.ts';
import { removeMass } from '../../../src/lib/editor/masses.ts';
import { SPACING_KINDS, spacingOfKind } from '../../../src/lib/editor/spacings.ts';
import { addZone, fieldNumber, paintZone, zoneFields } from '../../../src/lib/editor/zones.ts';
import { fullDemo, run } from '../demo.ts';

describe('editing openings', () => {
	it('adds what was drawn about its own place', () => {
		expect(drawnRectangle([3000, 5000], [1000, 2000])).deep.equal({
			outline: { kind: 'rectangle', width: 2000, height: 3000 },
			place: { kind: 'face', across: 2000, up: 2000 }
		});
		expect(drawnCircle([1000, 1000], [1300, 1400])).deep.equal({
			outline: { kind: 'circle', diameter: 1000 },
			place: { kind: 'face', across: 1000, up: 1000 }
		});
		const drawn = drawnOpening('polygon', [
			[0, 0],
			[3000, 0],
			[0, 3000]
		]);
		expect(drawn).deep.equal({
			outline: {
				kind: 'polygon',
				points: [
					[-1000, -1000],
					[2000, -1000],
					[-1000, 2000]
				]
			},
			place: { kind: 'face', across: 1000, up: 1000 }
		});
	});

	it('copies, moves and removes, and the document stays sound', () => {
		const project = fullDemo();
		const face = project.masses[0]!.faces[0]!;
		const before = face.openings.length;
		const id = addOpening(face, drawnRectangle([0, 0], [1000, 1000]));
		const copy = copyOpening(face, id, 1500);
		expect(face.openings.find((o) => o.id === copy)!.place).deep.equal({ kind: 'face', across: 2000, up: 0 });
		expect(new Set(face.openings.map((o) => o.name)).size).equal(before + 2);
		const elevation = {
			...face.openings[0]!,
			place: { kind: 'elevation' as const, x: 0, y: 0, z: 0, bearing: Math.PI }
		};
		moveOpening(elevation, 100, 50);
		// Who looks at a facade that faces south has east on the right.
		expect(elevation.place).deep.equal({ kind: 'elevation', x: 100, y: 0, z: 50, bearing: Math.PI });
		checkDocument(structuredClone(project));
		removeOpening(face, id);
		removeOpening(face, copy);
		expect(face.openings.length).equal(before);
	});

	it('keeps the height of what hung on a level that goes', async () => {
		const project = fullDemo();
		const places = async () =>
			(await run(project)).faces.find((f) => f.key.startsWith('quay'))!.openings.find((o) => o.id === 'gangway')!
				.places[0]!;
		const before = await places();
		project.levels.push({ id: 'attic', name: 'Attic', height: 20_000 });
		for (const mass of project.masses)
			for (const face of mass.faces)
				for (const { spacing } of [face.settingOut.across, face.settingOut.up])
					if (spacing.kind === 'levels') spacing.levels = ['concourse', 'gallery'];
		removeLevel(project, 'concourse');
		checkDocument(structuredClone(project));
		const after = await places();
		expect(Math.hypot(after[0] - before[0], after[1] - before[1])).lessThan(0.01);
	});

	it('reads points a line each, and says which line is wrong', () => {
		expect(parsePoints('0, 0\n1200, 900\n-50, 1 m', 'mm')).deep.equal({
			points: [
				[0, 0],
				[1200, 900],
				[-50, 1000]
			]
		});
		expect(parsePoints('0, 0\n1200', 'mm')).deep.equal({
			error: 'Line 2, “1200”, is no point. Right would be two lengths, such as 1200, 900.'
		});
		expect(
			parsePoints(
				printPoints(
					[
						[0, 0],
						[1200, -900]
					],
					'mm'
				).replace('−', '-'),
				'mm'
			)
		).deep.equal({
			points: [
				[0, 0],
				[1200, -900]
			]
		});
	});

	it('turns every kind of spacing into a sound document', () => {
		for (const kind of SPACING_KINDS)
			for (const name of ['across', 'up'] as const) {
				const project = fullDemo();
				project.masses[1]!.faces[0]!.settingOut[name].spacing = spacingOfKind(
					kind,
					name,
					{ count: 12, modules: [900, 1200.04] },
					[0, 0]
				);
				checkDocument(project);
			}
	});
});

describe('zones', () => {
	it('hold what was painted and not erased, whatever the strokes', () => {
		const field = fc.record({ row: fc.integer({ min: 0, max: 9 }), column: fc.integer({ min: 0, max: 9 }) });
		fc.assert(
			fc.property(fc.array(fc.tuple(fc.array(field, { maxLength: 12 }), fc.boolean()), { maxLength: 8 }), (strokes) => {
				const project = fullDemo();
				const id = addZone(project);
				const expected = new Set<number>();
				for (const [fields, erase] of strokes) {
					paintZone(project, id, 'canopy/skin', fields, erase);
					for (const f of fields)
						if (erase) expected.delete(fieldNumber(f));
						else expected.add(fieldNumber(f));
				}
				expect(zoneFields(project.zones.at(-1)!, 'canopy/skin')).deep.equal(expected);
				// Runs neither touch nor overlap.
				const runs = project.zones.at(-1)!.parts[0]?.runs ?? [];
				runs.slice(1).forEach(([row, from], k) => expect(row > runs[k]![0] || from > runs[k]![2] + 1).true);
			}),
			{ numRuns: 30 }
		);
	});

	it('lose the faces of a mass that goes', () => {
		const project = fullDemo();
		const id = addZone(project);
		paintZone(project, id, 'canopy/skin', [{ row: 1, column: 1 }], false);
		removeMass(project, 'canopy');
		expect(project.zones.at(-1)!.parts).deep.equal([]);
		checkDocument(project);
	});
});
