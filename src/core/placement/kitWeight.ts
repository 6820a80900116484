import { newell } from '../geometry/newell.ts';
import { hypot, norm } from '../elementary/index.ts';
import { bayBorder } from '../kit/baySize.ts';
import type { TrialHost } from '../kit/trialHosts.ts';
import type { Trial } from './trial.ts';

/** What a kit weighs: kg/m2 of a cell or a bay, kg/m of an edge or a path, or kg at a node. */
export interface KitWeight {
	readonly value: number;
	readonly per: 'area' | 'length' | 'piece';
}

/** The weight of what a kit makes on a trial host, beside the size of that. */
export function weighKit(
	{ parts }: Pick<Trial, 'parts'>,
	{ kind, points, closed, bay }: Pick<TrialHost, 'kind' | 'points' | 'closed' | 'bay'>
): KitWeight {
	const mass = parts.reduce((sum, p) => sum + p.mass, 0);
	if (kind === 'node') return { value: mass, per: 'piece' };
	if (kind === 'cell' || kind === 'box' || bay) {
		const corners = bay
			? bayBorder(bay).map((k) => points[k]!)
			: kind === 'box'
				? points.slice(0, points.length / 2)
				: points;
		const area = norm(newell(corners.flat(), corners.length, (k) => k * 3)) / 2;
		return { value: mass / (area / 1e6), per: 'area' };
	}
	const sides = points
		.map((p, k) => [p, points[(k + 1) % points.length]!] as const)
		.slice(0, closed ? points.length : points.length - 1);
	const length = sides.reduce((sum, [a, b]) => sum + hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2]), 0);
	return { value: mass / (length / 1000), per: 'length' };
}
