import type { Kit } from '../kit/schema.ts';
import type { Placement } from '../placement/place.ts';

/** A placement with the rule that it follows. */
export interface RulePlacement extends Placement {
	readonly rule: string;
}

/** What stands on each element. */
export interface KitsOfHosts {
	/** By element: index into `words`; -1 where nothing has been made. */
	readonly sets: Int32Array;
	/** The names of kits that stand together, first come first. Kits are told apart by their ids. */
	readonly words: readonly string[];
}

/** Placements with the kit that the rule names: what stands within a kit counts as that kit's, and comes behind it. */
export function outermost(
	placements: readonly RulePlacement[]
): { readonly placement: RulePlacement; readonly kit: Kit }[] {
	let kit: Kit | undefined;
	return placements.map((placement) => {
		if (!placement.inner) ({ kit } = placement);
		return { placement, kit: kit! };
	});
}

/** The kits that have made a piece on each of `count` elements. O(elements + rows of parts). */
export function kitsOf(count: number, placements: readonly RulePlacement[]): KitsOfHosts {
	const sets = new Int32Array(count).fill(NOTHING);
	/** Each set of kits once, by ids. */
	const kits: Kit[][] = [];
	const known = new Map<string, number>();
	const setOf = (list: Kit[]) => {
		const key = list.map((k) => k.id).join(' ');
		const found = known.get(key) ?? kits.push(list) - 1;
		known.set(key, found);
		return found;
	};
	for (const { placement, kit } of outermost(placements)) {
		/** By set and one more: the set with this kit, too. */
		const joined: number[] = [];
		const join = (set: number): number => {
			const list = set === NOTHING ? [] : kits[set]!;
			return (joined[set + 1] ??= list.some((k) => k.id === kit.id) ? set : setOf([...list, kit]));
		};
		for (const { pieces } of placement.parts) joinWhere(pieces, placement.hosts, sets, joined, join);
	}
	return { sets, words: kits.map((list) => list.map((k) => k.name).join(' + ')) };
}

const NOTHING = -1;

/** Puts a kit to the set of every element that has a piece. By itself, so that engines compile it once for all placements. */
function joinWhere(
	pieces: Float64Array,
	hosts: Uint32Array,
	sets: Int32Array,
	joined: readonly number[],
	join: (set: number) => number
): void {
	for (let h = 0; h < pieces.length; h++) {
		if (!(pieces[h]! > 0)) continue;
		const element = hosts[h]!;
		const set = sets[element]!;
		const next = joined[set + 1] ?? join(set);
		if (next !== set) sets[element] = next;
	}
}
