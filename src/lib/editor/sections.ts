import type { LoftSection } from '../../core/mass/loft.ts';

/** A section half way between number `k` and the next (or the one before, for the last); answers its index. */
export function addSection(sections: LoftSection[], k: number): number {
	const low = Math.min(k, sections.length - 2);
	const [a, b] = [sections[low]!, sections[low + 1]!];
	const middle = (name: keyof LoftSection) => (a[name] + b[name]) / 2;
	sections.splice(low + 1, 0, {
		at: middle('at'),
		span: middle('span'),
		rise: middle('rise'),
		lean: middle('lean'),
		shift: middle('shift'),
		startHeight: middle('startHeight'),
		endHeight: middle('endHeight')
	});
	return low + 1;
}
