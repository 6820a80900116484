import { ZygasterError } from '../../errors.ts';
import { FormulaError } from '../../kit/formula/parse.ts';
import type { ChartedFace } from '../../settingout/development.ts';
import type { SettingOut } from '../../settingout/spacing.ts';
import type { FieldAt } from '../../tiling/irregular/seedDensity.ts';
import { RuleHosts, type RuledFace } from '../rules/ruleHosts.ts';
import { RuleScope, type RuleWorld } from '../rules/scope.ts';
import { facePoints } from './facePoints.ts';

/** Fields at bare points of a face, for what makes its cells. */
export const fieldsAtPoints =
	(charted: ChartedFace, world: RuleWorld): FieldAt =>
	(field, us, vs) =>
		told(
			'tiling',
			'The sizes of cells follow a field',
			() => new RuleScope(facePoints(charted, us, vs), world).field(field).shares
		);

/**
 * The distance of the second layer, mm: the same, or of each node where it follows a field. Throws a ZygasterError with
 * code `settingOut` where the field cannot be worked out.
 */
export function layerDistance(layer: SettingOut['layer'], face: RuledFace, world: RuleWorld): number | Float64Array {
	if (typeof layer === 'number') return layer;
	const { from, to, field } = layer;
	return told('settingOut', 'The second layer follows a field', () =>
		new RuleScope(new RuleHosts('node', face), world).field(field).shares.map((share) => from + (to - from) * share)
	);
}

function told<T>(code: string, what: string, work: () => T): T {
	try {
		return work();
	} catch (cause) {
		if (!(cause instanceof FormulaError)) throw cause;
		throw new ZygasterError(code, `${what}, which cannot be worked out: ${cause.message}.`);
	}
}
