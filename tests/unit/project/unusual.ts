import fc from 'fast-check';
import { kitSchema, type Kit, type KitInput } from '../../../src/core/kit/schema.ts';
import { PRESETS } from '../../../src/core/mass/presets.ts';
import { newMass } from '../../../src/core/project/newMass.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { starterProject } from '../../../src/core/project/starter.ts';
import { STARTER_MATERIALS } from '../../../src/core/project/starterMaterials.ts';
import { openingSchema } from '../../../src/core/tiling/openings/schema.ts';
import { tilingSchema } from '../../../src/core/tiling/schema.ts';
import { addRule } from '../demo.ts';
import { ALL_TILINGS } from '../tile.ts';

type Steps = KitInput['steps'];
const part = { role: 'panel', material: 'steel' } as const;
const own = (id: string, host: KitInput['host'], steps: Steps): Kit =>
	kitSchema.parse({ id, name: id, host, parameters: [], steps });
const anyCell = { kind: 'cell', leastCorners: 3, greatestCorners: 64 } as const;
const PROFILES = ['rectangle', 'hollow', 'round', 'tube', 'tee', 'angle', 'channel'] as const;

/** Kits of closed bodies only, of every kind that a step can make. */
export const CLOSED: readonly Kit[] = [
	own('plates', anyCell, [
		{ kind: 'outline', name: 'o' },
		{ kind: 'inset', name: 'in', of: 'o', distance: '0.1 * sqrt(area)' },
		{ kind: 'plate', name: 'p', ...part, outline: 'o', thickness: 20, holes: ['in'] }
	]),
	own('blocks', anyCell, [
		{ kind: 'outline', name: 'o' },
		{ kind: 'inset', name: 'in', of: 'o', by: 'ratio', distance: 0.3 },
		{ kind: 'lift', name: 'up', of: 'in', distance: '0.2 * sqrt(area)' },
		{ kind: 'loft', name: 'b', through: ['up', 'o'] },
		{ kind: 'solid', name: 's', ...part, body: 'b' }
	]),
	own('balls', { kind: 'node' }, [
		{ kind: 'corner', name: 'n', corner: 0 },
		{ kind: 'ball', name: 'b', at: 'n', radius: 70, pieces: 10 },
		{ kind: 'solid', name: 's', ...part, body: 'b' }
	]),
	own('discs', { kind: 'node' }, [
		{ kind: 'corner', name: 'n', corner: 0 },
		{ kind: 'cylinder', name: 'b', along: 'n', radius: 70, thickness: 12, pieces: 12 },
		{ kind: 'solid', name: 's', ...part, body: 'b' }
	]),
	own('boxes', { kind: 'box', leastCorners: 4, greatestCorners: 4 }, [
		{ kind: 'outline', name: 'l' },
		{ kind: 'outline', name: 'u', layer: 'upper' },
		{ kind: 'mould', name: 'm', width: 1000, height: 1000, depth: 500 },
		{ kind: 'outline', name: 'f', on: 'm' },
		{ kind: 'prism', name: 'b', on: 'm', outline: 'f', height: 400 },
		{ kind: 'module', name: 's', ...part, mould: 'm', body: 'b', lower: 'l', upper: 'u' }
	]),
	own('rings', { kind: 'path', along: 'across', every: 2 }, [
		{ kind: 'outline', name: 'o' },
		{ kind: 'bar', name: 's', ...part, line: 'o', width: 40, depth: 60, across: 25 }
	]),
	...PROFILES.map((profile) =>
		own(`edges-${profile}`, { kind: 'edge' }, [
			{ kind: 'outline', name: 'o' },
			{ kind: 'cut', name: 'c', of: 'o', start: '0.1 * length', end: '0.1 * length' },
			{ kind: 'bar', name: 's', ...part, line: 'c', profile, width: 50, depth: 70, wall: 6, turn: '20 deg', out: -30 }
		])
	),
	...PROFILES.map((profile) =>
		own(`frames-${profile}`, anyCell, [
			{ kind: 'outline', name: 'o' },
			{ kind: 'inset', name: 'in', of: 'o', distance: '0.12 * sqrt(area)' },
			{ kind: 'bar', name: 's', ...part, line: 'in', profile, width: 30, depth: 40, wall: 4, across: 12 }
		])
	)
];

/** A project of one mass in random divisions and tilings with some kits, as a user could make it; bays want sets of their own. */
export const unusual = (kits: readonly Kit[]) =>
	fc
		.record({
			shape: fc.constantFrom(...Object.keys(PRESETS)) as fc.Arbitrary<keyof typeof PRESETS>,
			across: fc.integer({ min: 4, max: 9 }),
			up: fc.integer({ min: 3, max: 7 }),
			tiling: fc.constantFrom(...ALL_TILINGS.filter(({ kind }) => kind !== 'icosahedral')),
			layer: fc.constantFrom(-300, 0, 250),
			hole: fc.option(
				fc.record({
					diameter: fc.integer({ min: 300, max: 4000 }),
					x: fc.integer({ min: -3000, max: 12_000 }),
					y: fc.integer({ min: 0, max: 9000 }),
					round: fc.boolean()
				})
			),
			from: fc.constantFrom('start', 'end') as fc.Arbitrary<'start' | 'end'>,
			fair: fc.constantFrom(0, 0, 3),
			chosen: fc.uniqueArray(fc.constantFrom(...kits.filter((k) => k.host.kind !== 'bay')), {
				minLength: 1,
				maxLength: 3,
				selector: (k) => k.id
			})
		})
		.map(({ shape, across, up, tiling, layer, hole, from, fair, chosen }): Project => {
			const project = starterProject('Unusual');
			project.materials = structuredClone([...STARTER_MATERIALS]);
			const mass = newMass(structuredClone(PRESETS[shape]), project.levels, { id: 'mass', name: shape, marks: [] });
			project.masses = [mass];
			project.kits = structuredClone([...chosen]);
			project.rules = [];
			for (const face of mass.faces.slice(0, 3)) {
				face.tiling = tilingSchema.parse(tiling);
				// Whole units fit around closed faces.
				Object.assign(face.settingOut.across, {
					spacing: { kind: 'count', count: across * 12 > 60 ? across * 6 : across * 12 },
					from
				});
				Object.assign(face.settingOut.up, { spacing: { kind: 'count', count: up * 2 }, from });
				Object.assign(face.settingOut, { layer, fair });
				if (hole)
					face.openings = [
						openingSchema.parse({
							id: 'hole',
							name: 'Hole',
							outline: hole.round
								? { kind: 'circle', diameter: hole.diameter }
								: { kind: 'rectangle', width: hole.diameter, height: hole.diameter / 2 },
							place: { kind: 'face', across: hole.x, up: hole.y }
						})
					];
				chosen.forEach((kit, k) =>
					addRule(project, { id: `${face.id}-${k}`, face: `mass/${face.id}`, kit: kit.id, values: {} })
				);
			}
			mass.faces.slice(3).forEach((face) => (face.facade = false));
			return project;
		});

/** The same documents every time, so that a fault is met again; others with SEED set. */
export const seed = Number(process.env.SEED ?? 2026);
