import { ZygasterError } from '../errors.ts';
import { cornersInWords } from '../kit/corners.ts';
import type { Failure } from '../kit/result.ts';
import type { Kit, KitParameter } from '../kit/schema.ts';
import type { SolidPort } from '../kit/solids.ts';
import { settleValues } from '../kit/values.ts';
import type { HostFace } from '../placement/faceHosts.ts';
import { placeKit, standsOnCells, type Misfit, type Placed, type Placement } from '../placement/place.ts';
import { printFull } from '../units/print.ts';
import type { Quantity } from '../units/quantity.ts';
import { kitLibrary, kitsWithin, moduleHashes, moduleLibrary, needsSolids } from './kitWorld.ts';
import { hashOf } from './memo.ts';
import type { Run } from './run.ts';
import type { Face, Project, Rule } from './schema.ts';

/** Every kit that a rule places on the face, each remembered by itself. */
export async function placeOnFace(
	run: Run,
	project: Project,
	face: Face,
	what: string,
	key: string,
	cellInputs: unknown,
	hostFace: HostFace
): Promise<readonly Placement[]> {
	const library = kitLibrary(project);
	const placements: Placement[] = [];
	const hashes: string[] = [];
	const unfit: Unfit[] = [];
	for (const rule of rulesFor(project, key)) {
		const kit = library.get(rule.kit);
		if (!kit) continue;
		const solids = needsSolids(kit, library) ? await run.solids() : undefined;
		const placed = await run.stage('placement', what, () =>
			placeRule(run, project, key, rule, kit, [cellInputs, face.settingOut.layer], hostFace, solids)
		);
		for (const placement of placed.placements) placements.push(placement);
		for (const misfit of placed.misfits) unfit.push({ kit, ...misfit });
		hashes.push(run.lastHash);
	}
	warnOfMisfits(run, key, unfit, placements);
	run.lastHash = hashOf([cellInputs, hashes]);
	return placements;
}

function placeRule(
	run: Run,
	project: Project,
	key: string,
	rule: Rule,
	kit: Kit,
	cellInputs: unknown,
	hostFace: HostFace,
	solids: SolidPort | undefined
): Pick<Placed, 'placements' | 'misfits'> {
	const library = kitLibrary(project);
	const densities = Object.fromEntries(project.materials.map((m) => [m.id, m.density]));
	for (const { parameter, label, asked, used } of settleValues(kit, rule.values).clamped) {
		const { quantity } = kit.parameters.find((p) => p.name === parameter)!;
		const print = (value: number) => printFull(value, plainQuantity(quantity), project.units);
		run.warn('placement', key, `${label} of “${kit.name}” was asked as ${print(asked)} and is held at ${print(used)}.`);
	}
	const kits = kitsWithin(kit, library);
	const inputs = [cellInputs, kits, moduleHashes(project, kits), rule.values, densities];
	try {
		const { placements, misfits, failures, clamped } = run.memo('placement', `${key} ${rule.id}`, inputs, () =>
			placeKit(kit, rule.values, hostFace, {
				densities,
				library,
				modules: moduleLibrary(project),
				solids,
				arrays: run.arrays
			})
		);
		warnOfFailures(run, key, kit, failures);
		for (const [name, count] of clamped) {
			const parameter = kit.parameters.find((p) => p.name === name)!;
			run.warn(
				'placement',
				key,
				`${parameter.label} of “${kit.name}” follows a formula that was held at its limits on ${count} ${hostsInWords(kit, count)}.`
			);
		}
		return { placements, misfits };
	} catch (cause) {
		if (!(cause instanceof ZygasterError)) throw cause;
		run.warn('placement', key, cause.message);
		run.lastHash = hashOf([cellInputs, cause.message]);
		return { placements: [], misfits: [] };
	}
}

/** Cells that a rule's kit is not made for. */
type Unfit = Misfit & { readonly kit: Kit };

/** Cells that no rule's kit is made for are told, with the kits that were tried; where another takes them nothing is amiss. */
function warnOfMisfits(run: Run, key: string, unfit: readonly Unfit[], placements: readonly Placement[]): void {
	if (unfit.length === 0) return;
	const taken = new Set(placements.filter(standsOnCells).flatMap((p) => [...p.hosts]));
	for (const { kit, corners, cells } of unfit) {
		const empty = cells.filter((c) => !taken.has(c));
		if (empty.length === 0 || !('leastCorners' in kit.host)) continue;
		run.warn(
			'placement',
			key,
			`“${kit.name}” fits cells with ${cornersInWords(kit.host)}; ${empty.length} with ${corners} are left empty.`,
			{ cells: empty }
		);
	}
}

const plainQuantity = (quantity: KitParameter['quantity']): Quantity =>
	quantity === 'length' || quantity === 'angle' || quantity === 'ratio' ? quantity : 'count';

/** What a kit stands on, for messages. */
function hostsInWords({ host }: Kit, count: number): string {
	const one = { cell: 'cell', box: 'cell', edge: 'edge', node: 'node', path: 'path' }[host.kind];
	return count === 1 ? one : `${one}s`;
}

function warnOfFailures(run: Run, key: string, kit: Kit, failures: readonly Failure[]): void {
	const ofCells = kit.host.kind === 'cell' || kit.host.kind === 'box';
	for (const { step, reason, hosts } of failures)
		run.warn(
			'placement',
			key,
			`“${kit.name}” does not fit ${hosts.length} ${hostsInWords(kit, hosts.length)}: step “${step}”: ${reason}.`,
			ofCells ? { cells: hosts } : {}
		);
}

/** The rules that place kits on a face, in order. */
export function rulesFor(project: Project, key: Face['id']): Rule[] {
	return project.rules.filter((rule) => rule.face === key);
}
