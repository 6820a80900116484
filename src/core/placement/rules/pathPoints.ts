import type { KitParameter } from '../../kit/schema.ts';
import { flattener } from '../fields/flatten.ts';
import type { FieldHosts } from '../fields/facePoints.ts';
import { drawnPathsOf } from '../paths.ts';
import { KEY_SIZE, RuleHosts, type RuledFace } from './ruleHosts.ts';
import type { RuleValue } from './schema.ts';
import { RuleScope } from './scope.ts';

const scopes = new WeakMap<RuleScope, RuleScope<FieldHosts>>();

/** The nodes of a face and behind them the points of its drawn paths, as fields see them: what kits on paths number their points by. */
function pointsOfPaths(face: RuledFace): FieldHosts {
	const nodes = new RuleHosts('node', face);
	const { drawn } = face;
	if (!drawn?.count) return nodes;
	const { position, pointNormal } = drawnPathsOf(face);
	const more = drawn.position.length / 3;
	const flat = new Float64Array((nodes.count + more) * 2);
	flat.set(nodes.flat);
	const points = Array.from(
		{ length: more },
		(_, k) => [drawn.position[k * 3]!, drawn.position[k * 3 + 1]!, drawn.position[k * 3 + 2]!] as const
	);
	flattener(face.charted)(points).forEach(([x, y], k) => flat.set([x, y], (nodes.count + k) * 2));
	const keys = new Uint32Array((nodes.count + more) * KEY_SIZE);
	keys.set(nodes.keys);
	// Points of drawn paths are no nodes: their number tells them from those and from each other.
	for (let k = 0; k < more; k++) keys[(nodes.count + k) * KEY_SIZE + 1] = nodes.count + k;
	return {
		kind: 'node',
		count: nodes.count + more,
		face,
		centres: position,
		normals: pointNormal,
		flat,
		keys,
		reading(name) {
			const read = nodes.reading(name);
			const all = read && new Float64Array(nodes.count + more).fill(NaN);
			all?.set(read!);
			return all;
		}
	};
}

/**
 * A value that follows a field, at every point that kits on paths number, between the parameter's limits; nothing for other
 * values, which are the same all along a path. Where the field has no number the kit's own value stands.
 */
export function alongPaths(value: RuleValue, p: KitParameter, scope: RuleScope): Float64Array | undefined {
	if (typeof value !== 'object' || value.kind !== 'field' || !('least' in p)) return undefined;
	const known = scopes.get(scope) ?? new RuleScope(pointsOfPaths(scope.hosts.face), scope.world);
	scopes.set(scope, known);
	return known.field(value.field).shares.map((share) => {
		const asked = value.from + share * (value.to - value.from);
		return Number.isFinite(asked) ? Math.min(p.greatest, Math.max(p.least, asked)) : Number(p.default);
	});
}
