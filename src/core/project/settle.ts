import { settleHeights } from '../mass/levels.ts';
import type { SettledShape } from '../mass/shapes.ts';
import type { Mass, Project } from './schema.ts';

/** A mass's shape with every height a number above the mass's own ground. Throws as `settleHeights` does. */
export function settleShape(project: Pick<Project, 'levels'>, mass: Pick<Mass, 'shape' | 'frame'>): SettledShape {
	const levels = new Map(project.levels.map((l) => [l.id, l.height]));
	return settleHeights(mass.shape, levels, mass.frame.z);
}
