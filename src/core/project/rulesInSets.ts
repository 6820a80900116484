import type { KitHost } from '../kit/schema.ts';
import { MOST_CORNERS } from '../kit/corners.ts';
import { setHostOf } from '../placement/rules/ruleHosts.ts';
import type { Rule, RuleSet } from '../placement/rules/schema.ts';
import { STARTER_SETS } from './starterSets.ts';

/** A rule as it was before there were sets: one kit on all hosts of one face. */
export interface PlainRule {
	readonly id: string;
	readonly face: string;
	readonly kit: string;
	readonly values: Rule['values'];
}

interface Hosted {
	readonly id: string;
	readonly host: {
		readonly kind: KitHost['kind'];
		readonly leastCorners?: number;
		readonly greatestCorners?: number;
	};
}

/**
 * Sets for rules that all stand beside each other: kits for cells of other numbers of corners share a set, all others
 * that stand on like hosts of one face have one each.
 */
export function rulesInSets(plain: readonly PlainRule[], kits: readonly Hosted[]): { sets: RuleSet[]; rules: Rule[] } {
	const sets: RuleSet[] = STARTER_SETS.map((set) => ({ ...set }));
	const inSet = new Map<string, PlainRule[]>();
	const kitOf = (id: string) => kits.find((k) => k.id === id);
	const rules = plain.map((rule): Rule => {
		const { id: own, face, kit, values, ...others } = rule;
		const host = setHostOf(kitOf(rule.kit)?.host ?? { kind: 'cell' });
		const base = STARTER_SETS.find((s) => s.host === host)!;
		for (let n = 1; ; n++) {
			const id = n === 1 ? base.id : `${base.id}-${n}`;
			const there = (inSet.get(id) ?? []).filter((r) => r.face === rule.face);
			if (!there.every((r) => apart(kitOf(r.kit), kitOf(rule.kit)))) continue;
			inSet.set(id, [...(inSet.get(id) ?? []), rule]);
			if (!sets.some((s) => s.id === id))
				sets.splice(sets.findLastIndex((s) => s.host === host) + 1, 0, { id, name: `${base.name} ${n}`, host });
			return { id: own, set: id, faces: [face], where: [], kit, values, ...others };
		}
	});
	return { sets, rules };
}

/** Whether no cell is fit for both kits. */
function apart(a: Hosted | undefined, b: Hosted | undefined): boolean {
	const rangeOf = (kit: Hosted | undefined) => {
		const { leastCorners: least = 0, greatestCorners: greatest = MOST_CORNERS } = kit?.host ?? {};
		return [least, greatest >= MOST_CORNERS ? Infinity : greatest] as const;
	};
	const [[a0, a1], [b0, b1]] = [rangeOf(a), rangeOf(b)];
	return a1 < b0 || b1 < a0;
}
