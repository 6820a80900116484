import { evaluatePoints } from '../../geometry/evaluate.ts';
import { PatchCursor } from '../../geometry/patches.ts';
import { developmentOf, type ChartedFace } from '../../settingout/development.ts';
import { KEY_SIZE, type RuleHosts } from '../rules/ruleHosts.ts';

/** What fields are worked out on: hosts of rules, or bare points of a face. */
export interface FieldHosts extends Pick<
	RuleHosts,
	'kind' | 'count' | 'reading' | 'centres' | 'normals' | 'flat' | 'keys'
> {
	readonly face: { readonly charted: ChartedFace };
	/** The same where they stand on cells. */
	readonly onCells?: RuleHosts;
}

/** Points of a face before it has cells, by their parameters. O(points). */
export function facePoints(charted: ChartedFace, us: Float64Array, vs: Float64Array): FieldHosts {
	const { position, normal } = evaluatePoints(charted.surface, us, vs);
	const cursor = new PatchCursor(developmentOf(charted).patches);
	const flat = new Float64Array(us.length * 2);
	const keys = new Uint32Array(us.length * KEY_SIZE);
	for (let k = 0; k < us.length; k++) {
		cursor.evaluate(us[k]!, vs[k]!);
		flat.set(cursor.out.subarray(0, 2), k * 2);
		keys[k * KEY_SIZE] = k;
	}
	return {
		kind: 'node',
		count: us.length,
		face: { charted },
		centres: position,
		normals: normal,
		flat,
		keys,
		reading: () => undefined
	};
}
