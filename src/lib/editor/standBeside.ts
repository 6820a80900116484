import { ZygasterError } from '../../core/errors.ts';
import { placeSurface } from '../../core/mass/frame.ts';
import { kindOf } from '../../core/mass/shapes.ts';
import { settleShape } from '../../core/project/settle.ts';
import type { Mass, Project } from '../../core/project/schema.ts';

/** Between a new mass and those that are there, mm, and what its place is rounded up to. */
const GAP = 4000;
const STEP = 1000;

/** Moves a mass of a project east, so that it stands clear of all others. */
export function standBeside(draft: Project, mass: Mass): void {
	const others = draft.masses.filter((m) => m !== mass).map((m) => eastings(draft, m)[1]);
	const east = Math.max(...others);
	if (!Number.isFinite(east)) return;
	mass.frame.x += Math.ceil((east + GAP - eastings(draft, mass)[0]) / STEP) * STEP;
}

/** How far west and east a mass may reach: its control points enclose it. Nothing where its numbers lead to no face. */
function eastings(project: Project, mass: Mass): readonly [west: number, east: number] {
	let [west, east] = [Infinity, -Infinity];
	try {
		const shape = settleShape(project, mass);
		for (const surface of kindOf(shape).surfaces(shape)) {
			const { control } = placeSurface(surface, mass.frame);
			for (let o = 0; o < control.length; o += 4) {
				const x = control[o]! / control[o + 3]!;
				west = Math.min(west, x);
				east = Math.max(east, x);
			}
		}
	} catch (cause) {
		if (!(cause instanceof ZygasterError)) throw cause;
	}
	return [west, east];
}
