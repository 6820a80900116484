import { STARTER_KITS } from '../../src/core/kit/starters/index.ts';
import { PRESETS } from '../../src/core/mass/presets.ts';
import type { Shape } from '../../src/core/mass/shapes.ts';
import type { Condition } from '../../src/core/placement/rules/schema.ts';
import { newMass } from '../../src/core/project/newMass.ts';
import type { Project } from '../../src/core/project/schema.ts';
import { starterProject } from '../../src/core/project/starter.ts';
import { setRules } from './demo.ts';

/** A block with a node piece and a mullion on all of its faces, divided by the length of each wall. */
export function clad(
	shape: Shape,
	where: readonly Condition[],
	across: (face: number) => number,
	up: (face: number) => number
): Project {
	const project = starterProject('Block');
	project.kits = structuredClone(
		STARTER_KITS.filter((k) => ['node-disc', 'mullion', 'flat-pane', 'path-rib'].includes(k.id))
	);
	const mass = newMass(structuredClone(shape), [], { id: 'block', name: 'Block', marks: [] });
	project.masses = [mass];
	mass.faces.forEach((face, f) => {
		Object.assign(face.settingOut.across, { spacing: { kind: 'count', count: across(f) } });
		Object.assign(face.settingOut.up, { spacing: { kind: 'count', count: up(f) } });
	});
	setRules(project, [
		{ id: 'discs', face: 'block/wall-1', kit: 'node-disc', values: {} },
		{ id: 'mullions', face: 'block/wall-1', kit: 'mullion', values: {} }
	]);
	for (const rule of project.rules) Object.assign(rule, { faces: [], where: structuredClone(where) });
	return project;
}

const BLOCK = PRESETS.block;
/** Walls of 24 m in four fields, those of 14 m in three, two rows; the roof in as many as the walls. */
export const plain = (where: readonly Condition[]) =>
	clad(
		BLOCK,
		where,
		(f) => (f === 4 || f % 2 === 0 ? 4 : 3),
		(f) => (f === 4 ? 3 : 2)
	);
