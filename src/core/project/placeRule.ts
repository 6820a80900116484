import type { ArraySource } from '../arrays.ts';
import { ZygasterError } from '../errors.ts';
import { cornersInWords } from '../kit/corners.ts';
import type { Kit, KitParameter } from '../kit/schema.ts';
import type { SolidPort } from '../kit/solids.ts';
import { settleValues } from '../kit/values.ts';
import type { HostFace } from '../placement/faceHosts.ts';
import { placeKit, standsOnCells, type Placed } from '../placement/place.ts';
import type { RulePlacement } from '../schedule/kitsOf.ts';
import { printFull } from '../units/print.ts';
import type { Quantity } from '../units/quantity.ts';
import { kitOf, type FaceInputs, type RuleInputs } from './faceInputs.ts';
import type { KitWorld } from './kitWorld.ts';
import type { Warning } from './run.ts';

/** What a rule has come to on a face. */
export interface PlacedRule extends Pick<Placed, 'misfits' | 'failures' | 'clamped'> {
	readonly placements: readonly RulePlacement[];
	/** Why nothing could be placed at all. */
	readonly error?: string;
}

/** Places a rule's kit on the hosts of a face; a fault of the kit's leaves nothing but its words. */
export function placeRule(
	inputs: RuleInputs,
	world: KitWorld,
	face: HostFace,
	solids: SolidPort | undefined,
	arrays: ArraySource
): PlacedRule {
	const { densities, library, modules } = world;
	const { rule } = inputs;
	try {
		const kit = kitOf(world, inputs);
		const placed = placeKit(kit, rule.values, face, { densities, library, modules, solids, arrays });
		return { ...placed, placements: placed.placements.map((p) => ({ ...p, rule: rule.id })) };
	} catch (cause) {
		if (!(cause instanceof ZygasterError)) throw cause;
		return { placements: [], misfits: [], failures: [], clamped: new Map(), error: cause.message };
	}
}

/** What the user should know of the rules on a face. Worded anew each time, since lengths are told in the project's units. */
export function warningsOfRules(
	{ key, rules, units }: FaceInputs,
	world: KitWorld,
	placed: readonly PlacedRule[]
): Warning[] {
	const warnings: Warning[] = [];
	const warn = (message: string, cells?: Uint32Array) =>
		warnings.push({ stage: 'placement', face: key, message, ...(cells ? { cells } : {}) });
	const taken = new Set<number>();
	if (placed.some((p) => p.misfits.length))
		for (const placement of placed.flatMap((p) => p.placements).filter(standsOnCells))
			for (const cell of placement.hosts) taken.add(cell);
	rules.forEach((inputs, k) => {
		const kit = kitOf(world, inputs);
		const { failures, clamped, error } = placed[k]!;
		for (const { parameter, label, asked, used } of settleValues(kit, inputs.rule.values).clamped) {
			const { quantity } = kit.parameters.find((p) => p.name === parameter)!;
			const print = (value: number) => printFull(value, plainQuantity(quantity), units);
			warn(`${label} of “${kit.name}” was asked as ${print(asked)} and is held at ${print(used)}.`);
		}
		if (error !== undefined) warn(error);
		const ofCells = kit.host.kind === 'cell' || kit.host.kind === 'box';
		for (const { step, reason, hosts } of failures)
			warn(
				`“${kit.name}” does not fit ${hosts.length} ${hostsInWords(kit, hosts.length)}: step “${step}”: ${reason}.`,
				ofCells ? hosts : undefined
			);
		for (const [name, count] of clamped) {
			const { label } = kit.parameters.find((p) => p.name === name)!;
			warn(
				`${label} of “${kit.name}” follows a formula that was held at its limits on ${count} ${hostsInWords(kit, count)}.`
			);
		}
	});
	// Cells that no rule's kit is made for are told; where another takes them nothing is amiss.
	rules.forEach((inputs, k) => {
		const kit = kitOf(world, inputs);
		for (const { corners, cells } of placed[k]!.misfits) {
			const empty = cells.filter((c) => !taken.has(c));
			if (empty.length === 0 || !('leastCorners' in kit.host)) continue;
			warn(
				`“${kit.name}” fits cells with ${cornersInWords(kit.host)}; ${empty.length} with ${corners} are left empty.`,
				empty
			);
		}
	});
	return warnings;
}

const plainQuantity = (quantity: KitParameter['quantity']): Quantity =>
	quantity === 'length' || quantity === 'angle' || quantity === 'ratio' ? quantity : 'count';

/** What a kit stands on, for messages. */
function hostsInWords({ host }: Kit, count: number): string {
	const one = { cell: 'cell', box: 'cell', edge: 'edge', node: 'node', path: 'path' }[host.kind];
	return count === 1 ? one : `${one}s`;
}
