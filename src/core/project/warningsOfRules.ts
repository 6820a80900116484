import { cornersInWords } from '../kit/corners.ts';
import type { Kit, KitParameter } from '../kit/schema.ts';
import { settleValues } from '../kit/values.ts';
import type { Assigned } from '../placement/rules/assign.ts';
import { group, printFull } from '../units/print.ts';
import type { Quantity } from '../units/quantity.ts';
import type { FaceInputs } from './faceInputs.ts';
import type { KitWorld } from './kitWorld.ts';
import type { PlacedJob } from './placeJob.ts';
import type { Warning } from './run.ts';

/** What the user should know of the rules on a face. Worded anew each time, since lengths are told in the project's units. */
export function warningsOfRules(
	{ key, units }: FaceInputs,
	{ library }: KitWorld,
	{ jobs, notes }: Assigned,
	placed: readonly PlacedJob[]
): Warning[] {
	const warnings: Warning[] = [];
	/** Jobs of one rule say the same. */
	const told = new Set<string>();
	const warn = (message: string, cells?: Uint32Array) => {
		if (!cells && told.has(message)) return;
		told.add(message);
		warnings.push({ stage: 'placement', face: key, message, ...(cells ? { cells } : {}) });
	};
	jobs.forEach((job, k) => {
		const kit = library.get(job.kit)!;
		const { failures, clamped, misfits, leftOut, error } = placed[k]!;
		const labelOf = (name: string) => kit.parameters.find((p) => p.name === name)!.label;
		for (const { parameter, label, asked, used } of settleValues(kit, job.given).clamped) {
			const { quantity } = kit.parameters.find((p) => p.name === parameter)!;
			const print = (value: number) => printFull(value, plainQuantity(quantity), units);
			warn(`${label} of “${kit.name}” was asked as ${print(asked)} and is held at ${print(used)}.`);
		}
		if (error !== undefined) warn(error);
		const ofCells = kit.host.kind === 'cell' || kit.host.kind === 'box';
		for (const { step, reason, hosts } of failures)
			warn(
				`“${kit.name}” does not fit ${group(hosts.length, 0)} ${hostsInWords(kit, hosts.length)}: step “${step}”: ${reason}.`,
				ofCells ? hosts : undefined
			);
		for (const [name, count] of [...clamped, ...job.clamped])
			warn(
				`${labelOf(name)} of “${kit.name}” follows a formula that was held at its limits on ${group(count, 0)} ${hostsInWords(kit, count)}.`
			);
		if (leftOut)
			warn(
				`${group(leftOut, 0)} ${leftOut === 1 ? 'piece' : 'pieces'} of “${kit.name}” on cut cells ${leftOut === 1 ? 'is' : 'are'} smaller than ${printFull(job.trim!.least, 'length', units)} and left out.`
			);
		for (const [name, count] of job.without)
			warn(
				`${labelOf(name)} of “${kit.name}” is no number on ${group(count, 0)} ${hostsInWords(kit, count)}; the kit’s own stands there.`
			);
		if ('leastCorners' in kit.host)
			for (const { corners, cells } of misfits)
				warn(
					`“${kit.name}” fits cells with ${cornersInWords(kit.host)}; ${cells.length} with ${corners} are left empty.`,
					cells
				);
	});
	for (const { message, cells } of notes) warn(message, cells);
	return warnings;
}

const plainQuantity = (quantity: KitParameter['quantity']): Quantity =>
	quantity === 'length' || quantity === 'angle' || quantity === 'ratio' ? quantity : 'count';

/** What a kit stands on, for messages. */
function hostsInWords({ host }: Kit, count: number): string {
	const one = { cell: 'cell', box: 'cell', edge: 'edge', node: 'node', path: 'path', bay: 'bay' }[host.kind];
	return count === 1 ? one : `${one}s`;
}
