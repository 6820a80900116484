import { group } from '../units/print.ts';
import { z } from 'zod';
import { ZygasterError } from '../errors.ts';
import type { Kit } from '../kit/schema.ts';
import { MOST_CELLS } from '../limits.ts';
import { kindOf } from '../mass/shapes.ts';
import { crossingSides } from '../tiling/openings/rings.ts';
import type { Opening } from '../tiling/openings/schema.ts';
import { settleShape } from './settle.ts';
import {
	divisionFaults,
	fieldFaults,
	knownNames,
	markTwice,
	pathFaults,
	overrideFaults,
	ruleFaults,
	wordFaults
} from './checkRules.ts';
import type { Level, Mass, Project, Zone } from './schema.ts';
import { unknown } from './unknown.ts';
import { beside, type Fault } from './sound.ts';

/** Faults that are gathered at most; nobody reads more. */
const MOST_FAULTS = 50;

/** What the schema cannot say field by field: ids stand once, names are known, and the cells fit. O(what has changed) beside lists of ids. */
export function checkProject(project: Project, context: z.RefinementCtx<unknown>): void {
	let told = 0;
	for (const fault of faultsOf(project)) {
		context.addIssue({ code: 'custom', path: [...fault.path], message: fault.message, input: undefined });
		if (++told === MOST_FAULTS) return;
	}
}

type Path = Fault['path'];

function* faultsOf(project: Project): Generator<Fault> {
	const { masses, levels, zones, tilings, kits, rules, overrides, fields, paths } = project;
	for (const list of [
		'materials',
		'kits',
		'modules',
		'masses',
		'rules',
		'levels',
		'references',
		'zones',
		'tilings',
		'numbers',
		'fields',
		'paths',
		'sets',
		'overrides',
		'tables'
	] as const)
		yield* within([list], twice(project[list]));
	for (const [m, mass] of masses.entries()) {
		yield* within(['masses', m, 'shape'], shapeFaults(mass, levels));
		yield* within(['masses', m, 'faces'], openingFaults(mass, levels));
	}
	yield* marks(masses);
	yield* cellCount(masses);
	const faces = new Set(masses.flatMap((mass) => mass.faces.map((face) => `${mass.id}/${face.id}`)));
	for (const [z, zone] of zones.entries()) yield* within(['zones', z, 'parts'], zoneFaults(zone, faces));
	const known = new Set(tilings.map((t) => t.id));
	for (const [m, { faces }] of masses.entries())
		for (const [f, { tiling }] of faces.entries())
			if (tiling.kind === 'own' && !known.has(tiling.tiling))
				yield {
					path: ['masses', m, 'faces', f, 'tiling', 'tiling'],
					message: unknown('tiling', tiling.tiling, known)
				};
	for (const [k, kit] of kits.entries()) yield* within(['kits', k], kitFaults(kit, project.materials));
	yield* wordFaults(project);
	const names = knownNames(project);
	for (const [m, mass] of masses.entries())
		for (const [f, face] of mass.faces.entries()) yield* within(['masses', m, 'faces', f], divisionFaults(face, names));
	for (const [f, field] of fields.entries()) yield* within(['fields', f], fieldFaults(field, names));
	for (const [p, path] of paths.entries()) yield* within(['paths', p], pathFaults(path, names));
	yield* markTwice(paths);
	for (const [r, rule] of rules.entries()) yield* within(['rules', r], ruleFaults(rule, names));
	yield* within(['costs', 'rates'], twice(project.costs.rates));
	yield* rateFaults(project);
	yield* noteFaults(project);
	for (const [o, override] of overrides.entries()) yield* within(['overrides', o], overrideFaults(override, names));
}

function* within(path: Path, faults: Iterable<Fault>): Generator<Fault> {
	for (const fault of faults) yield { ...fault, path: [...path, ...fault.path] };
}

function* twice(items: readonly { readonly id: string }[]): Generator<Fault> {
	const seen = new Set<string>();
	for (const [k, { id }] of items.entries()) {
		if (seen.has(id)) yield { path: [k, 'id'], message: `“${id}” stands twice; ids must differ` };
		seen.add(id);
	}
}

/** Prices hang on materials and kits that are there. */
function* rateFaults({ costs, materials, kits }: Project): Generator<Fault> {
	for (const [r, rate] of costs.rates.entries())
		for (const [what, list] of [
			['material', materials],
			['kit', kits]
		] as const) {
			const id = rate[what];
			if (id !== undefined && !list.some((x) => x.id === id))
				yield {
					path: ['costs', 'rates', r, what],
					message: unknown(
						what,
						id,
						list.map((x) => x.id)
					)
				};
		}
}

/** One note a row and column. */
function* noteFaults({ notes }: Project): Generator<Fault> {
	const seen = new Set<string>();
	for (const [n, { column, row }] of notes.entries()) {
		const place = `${column} ${row}`;
		if (seen.has(place)) yield { path: ['notes', n], message: `two notes of the column “${column}” are for one row` };
		seen.add(place);
	}
}

const shapeFaults = beside((mass: Mass, levels: readonly Level[]): Fault[] => {
	const faults: Fault[] = [];
	try {
		const shape = settleShape({ levels: [...levels] }, mass);
		const kind = kindOf(shape);
		kind.check?.(shape, (path, message) => faults.push({ path, message }));
		const wanted = kind.faces(shape).map((f) => f.id);
		const given = mass.faces.map((f) => f.id);
		if (wanted.join() !== given.join())
			faults.push({
				path: [],
				message: `this ${kind.label.toLowerCase()} has the faces ${wanted.join(', ')}; given are ${given.join(', ')}`
			});
	} catch (cause) {
		if (!(cause instanceof ZygasterError)) throw cause;
		faults.push({ path: [], message: cause.message });
	}
	return faults;
});

const openingFaults = beside((mass: Mass, levels: readonly Level[]): Fault[] => {
	const known = new Set(levels.map((l) => l.id));
	return mass.faces.flatMap((face, f) => [
		...within([f, 'openings'], twice(face.openings)),
		...face.openings.flatMap((opening, o) => {
			const { place } = opening;
			const faults = [...within([f, 'openings', o], outlineFaults(opening))];
			if (place.kind === 'level' && !known.has(place.level))
				faults.push({ path: [f, 'openings', o, 'place', 'level'], message: unknown('level', place.level, known) });
			return faults;
		})
	]);
});

const outlineFaults = beside(({ name, outline }: Opening): Fault[] => {
	const crossing = outline.kind === 'polygon' && crossingSides(outline.points);
	if (!crossing) return [];
	const message = `the line of “${name}” crosses itself, side ${crossing[0]} and side ${crossing[1]}; right would be a line that goes around once`;
	return [{ path: ['outline', 'points'], message }];
});

function* marks(masses: readonly Mass[]): Generator<Fault> {
	const owners = new Map<string, string>();
	for (const [m, mass] of masses.entries())
		for (const [f, face] of mass.faces.entries()) {
			const owner = owners.get(face.mark);
			if (owner)
				yield {
					path: ['masses', m, 'faces', f, 'mark'],
					message: `“${face.mark}” is already the mark of ${owner}; panels would share their marks`
				};
			owners.set(face.mark, `${mass.name} › ${face.name}`);
		}
}

/** Counts that are known without the geometry; others are held against the limit where they are laid out. */
function* cellCount(masses: readonly Mass[]): Generator<Fault> {
	let total = 0;
	for (const [m, mass] of masses.entries())
		for (const [f, face] of mass.faces.entries()) {
			const [across, up] = [face.settingOut.across.spacing, face.settingOut.up.spacing];
			if (!face.facade || across.kind !== 'count' || up.kind !== 'count') continue;
			total += across.count * up.count;
			if (total > MOST_CELLS)
				yield {
					path: ['masses', m, 'faces', f, 'settingOut'],
					message: `${group(across.count, 0)} × ${group(up.count, 0)} cells bring the project to ${group(total, 0)}; the limit is ${group(MOST_CELLS, 0)}`
				};
		}
}

function* zoneFaults({ parts }: Zone, faces: ReadonlySet<string>): Generator<Fault> {
	for (const [p, part] of parts.entries()) {
		if (!faces.has(part.face)) yield { path: [p, 'face'], message: unknown('face', part.face, faces) };
		yield* within([p, 'runs'], runFaults(part));
	}
}

const runFaults = beside(({ runs }: Zone['parts'][number]): Fault[] => {
	const r = runs.findIndex(([, from, to]) => from > to);
	if (r < 0) return [];
	const [, from, to] = runs[r]!;
	return [{ path: [r], message: `runs from column ${from} to ${to}; the first must not be beyond the last` }];
});

/** Faults in a kit's steps are told where it is placed, so that a kit can be saved while it is being made. */
const kitFaults = beside((kit: Kit, materials: Project['materials']): Fault[] => {
	const ids = new Set(materials.map((m) => m.id));
	const faults: Fault[] = [];
	const texts = kit.parameters.filter((p) => p.quantity === 'material');
	for (const p of texts)
		if (!ids.has(p.default))
			faults.push({
				path: ['parameters', kit.parameters.indexOf(p), 'default'],
				message: unknown('material', p.default, ids)
			});
	const known = new Set([...ids, ...texts.map((p) => p.name)]);
	const lists = [
		{ steps: kit.steps, at: ['steps'] as Path },
		...kit.variants.map((v, i) => ({ steps: v.steps, at: ['variants', i, 'steps'] as Path }))
	];
	for (const { steps, at } of lists)
		steps.forEach((step, s) => {
			if ('material' in step && !known.has(step.material))
				faults.push({ path: [...at, s, 'material'], message: unknown('material', step.material, known) });
		});
	return faults;
});
