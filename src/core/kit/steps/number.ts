import { slackOf } from '../../same.ts';
import { group } from '../../units/print.ts';
import type { Quantity } from '../../units/quantity.ts';
import { markFailed } from '../sound.ts';
import { option, value, valueOrNone } from '../fields.ts';
import { dimensionOf } from '../formula/dimension.ts';
import { stepKind } from '../stepKind.ts';

/** A number that later steps can name. */
export const number = stepKind({
	kind: 'value',
	group: 'numbers',
	makes: 'number',
	label: 'Number',
	help: 'A number by a formula, with a name that later formulas use; it is listed with the trial host',
	fields: {
		quantity: option({ length: 'Length', angle: 'Angle', ratio: 'Ratio', count: 'Count', area: 'Area' }, 'Quantity'),
		value: value('ratio', 'Formula', 'May use parameters, readings of the host and measures of steps', 1),
		least: valueOrNone('ratio', 'At least', 'A host on which it is less fails'),
		greatest: valueOrNone('ratio', 'At most', 'A host on which it is more fails')
	},
	compile({ name, quantity, value, least, greatest }, b) {
		const slot = b.slot(value, quantity, 'Formula');
		b.nameValue(name, slot, quantity);
		const slack = slackOf(dimensionOf(quantity));
		const { mask } = b;
		for (const [limit, sign, label] of [
			[least, 1, 'least'],
			[greatest, -1, 'most']
		] as const) {
			if (limit === undefined) continue;
			const end = b.slot(limit, quantity, `At ${label}`);
			const shown = typeof limit === 'number' ? printPlain(limit, quantity) : limit;
			const code = b.fault(
				`“${name}” is ${sign > 0 ? 'less' : 'more'} than it may be; right would be at ${label} ${shown}`
			);
			b.op((block) => {
				for (let h = 0; h < block.count; h++) {
					const [x, y] = [block.columns[slot]![h]!, block.columns[end]![h]!];
					if (!(sign * (x - y) >= -slack(x, y))) markFailed(block, h, mask, code);
				}
			});
		}
	}
});

/** A number as formulas write it. */
const printPlain = (value: number, quantity: Quantity) =>
	quantity === 'length'
		? `${group(value, 1)} mm`
		: quantity === 'angle'
			? `${group((value * 180) / Math.PI, 1)}°`
			: quantity === 'area'
				? `${group(value / 1e6, 3)} m²`
				: group(value, 3);
