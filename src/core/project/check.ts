import type { z } from 'zod';
import { ZygasterError } from '../errors.ts';
import { kindOf } from '../mass/shapes.ts';
import { crossingSides } from '../tiling/openings/rings.ts';
import { group } from '../units/print.ts';
import { MOST_CELLS } from '../limits.ts';
import { settleShape } from './settle.ts';
import type { Mass, Project } from './schema.ts';

type Context = z.RefinementCtx<unknown>;
type Path = (string | number)[];

/** What the schema cannot say field by field: ids stand once, names are known, and the cells fit. */
export function checkProject(project: Project, context: Context): void {
	const report = (path: Path, message: string) => context.addIssue({ code: 'custom', path, message, input: undefined });
	checkUnique(report, 'materials', project.materials);
	checkUnique(report, 'kits', project.kits);
	checkUnique(report, 'modules', project.modules);
	checkUnique(report, 'masses', project.masses);
	checkUnique(report, 'rules', project.rules);
	checkUnique(report, 'levels', project.levels);
	checkUnique(report, 'references', project.references);
	checkUnique(report, 'zones', project.zones);
	checkUnique(report, 'tilings', project.tilings);
	project.masses.forEach((mass, m) => checkMass(report, project, mass, m));
	checkMarks(report, project);
	checkCellCount(report, project);
	checkOpenings(report, project);
	checkZones(report, project);
	checkTilings(report, project);
	checkKits(report, project);
	checkRules(report, project);
}

type Report = (path: Path, message: string) => void;

function checkUnique(report: Report, list: string, items: readonly { id: string }[]): void {
	const seen = new Set<string>();
	items.forEach((item, k) => {
		if (seen.has(item.id)) report([list, k, 'id'], `“${item.id}” stands twice; ids must differ`);
		seen.add(item.id);
	});
}

function checkMass(report: Report, project: Project, mass: Mass, m: number): void {
	const at = (path: Path) => ['masses', m, 'shape', ...path];
	try {
		const shape = settleShape(project, mass);
		const kind = kindOf(shape);
		kind.check?.(shape, (path, message) => report(at(path), message));
		const wanted = kind.faces(shape).map((f) => f.id);
		const given = mass.faces.map((f) => f.id);
		if (wanted.join() !== given.join())
			report(
				['masses', m, 'faces'],
				`this ${kind.label.toLowerCase()} has the faces ${wanted.join(', ')}; given are ${given.join(', ')}`
			);
	} catch (cause) {
		if (!(cause instanceof ZygasterError)) throw cause;
		report(at([]), cause.message);
	}
}

function checkMarks(report: Report, project: Project): void {
	const owners = new Map<string, string>();
	project.masses.forEach((mass, m) =>
		mass.faces.forEach((face, f) => {
			const owner = owners.get(face.mark);
			if (owner)
				report(
					['masses', m, 'faces', f, 'mark'],
					`“${face.mark}” is already the mark of ${owner}; panels would share their marks`
				);
			owners.set(face.mark, `${mass.name} › ${face.name}`);
		})
	);
}

/** Counts that are known without the geometry; others are held against the limit where they are laid out. */
function checkCellCount(report: Report, project: Project): void {
	let total = 0;
	project.masses.forEach((mass, m) =>
		mass.faces.forEach((face, f) => {
			const [across, up] = [face.settingOut.across.spacing, face.settingOut.up.spacing];
			if (!face.facade || across.kind !== 'count' || up.kind !== 'count') return;
			total += across.count * up.count;
			if (total > MOST_CELLS)
				report(
					['masses', m, 'faces', f, 'settingOut'],
					`${group(across.count, 0)} × ${group(up.count, 0)} cells bring the project to ${group(total, 0)}; the limit is ${group(MOST_CELLS, 0)}`
				);
		})
	);
}

function checkOpenings(report: Report, project: Project): void {
	const levels = new Set(project.levels.map((l) => l.id));
	project.masses.forEach((mass, m) =>
		mass.faces.forEach((face, f) => {
			const seen = new Set<string>();
			face.openings.forEach(({ id, name, outline, place }, o) => {
				const at = (...path: Path) => ['masses', m, 'faces', f, 'openings', o, ...path];
				if (seen.has(id)) report(at('id'), `“${id}” stands twice; ids must differ`);
				seen.add(id);
				const crossing = outline.kind === 'polygon' && crossingSides(outline.points);
				if (crossing)
					report(
						at('outline', 'points'),
						`the line of “${name}” crosses itself, side ${crossing[0]} and side ${crossing[1]}; right would be a line that goes around once`
					);
				if (place.kind === 'level' && !levels.has(place.level))
					report(
						at('place', 'level'),
						`there is no level “${place.level}”; known: ${[...levels].join(', ') || 'none'}`
					);
			});
		})
	);
}

function checkZones(report: Report, project: Project): void {
	const faces = new Set(project.masses.flatMap((m) => m.faces.map((f) => `${m.id}/${f.id}`)));
	project.zones.forEach(({ parts }, z) =>
		parts.forEach(({ face, runs }, p) => {
			if (!faces.has(face))
				report(['zones', z, 'parts', p, 'face'], `there is no face “${face}”; known: ${[...faces].join(', ')}`);
			runs.forEach(([, from, to], r) => {
				if (from > to)
					report(
						['zones', z, 'parts', p, 'runs', r],
						`runs from column ${from} to ${to}; the first must not be beyond the last`
					);
			});
		})
	);
}

function checkTilings(report: Report, project: Project): void {
	const known = project.tilings.map((t) => t.id);
	project.masses.forEach((mass, m) =>
		mass.faces.forEach(({ tiling }, f) => {
			if (tiling.kind === 'own' && !known.includes(tiling.tiling))
				report(
					['masses', m, 'faces', f, 'tiling', 'tiling'],
					`there is no tiling “${tiling.tiling}”; known: ${known.join(', ') || 'none'}`
				);
		})
	);
}

/** Faults in a kit's steps are told where it is placed, so that a kit can be saved while it is being made. */
function checkKits(report: Report, project: Project): void {
	const materials = new Set(project.materials.map((m) => m.id));
	project.kits.forEach((kit, k) => {
		const texts = kit.parameters.filter((p) => p.quantity === 'material');
		texts.forEach((p) => {
			if (!materials.has(p.default))
				report(
					['kits', k, 'parameters', kit.parameters.indexOf(p), 'default'],
					`there is no material “${p.default}”; known: ${[...materials].join(', ') || 'none'}`
				);
		});
		const known = new Set([...materials, ...texts.map((p) => p.name)]);
		const lists = [
			{ steps: kit.steps, at: ['steps'] as Path },
			...kit.variants.map((v, i) => ({ steps: v.steps, at: ['variants', i, 'steps'] as Path }))
		];
		for (const { steps, at } of lists)
			steps.forEach((step, s) => {
				if ('material' in step && !known.has(step.material))
					report(
						['kits', k, ...at, s, 'material'],
						`there is no material “${step.material}”; known: ${[...known].join(', ') || 'none'}`
					);
			});
	});
}

function checkRules(report: Report, project: Project): void {
	const faces = new Set(project.masses.flatMap((m) => m.faces.map((f) => `${m.id}/${f.id}`)));
	project.rules.forEach((rule, r) => {
		if (!faces.has(rule.face))
			report(['rules', r, 'face'], `there is no face “${rule.face}”; known: ${[...faces].join(', ')}`);
		const kit = project.kits.find((k) => k.id === rule.kit);
		if (!kit) return report(['rules', r, 'kit'], `there is no kit “${rule.kit}”`);
		for (const [name, value] of Object.entries(rule.values)) {
			const parameter = kit.parameters.find((p) => p.name === name);
			const text = parameter?.quantity === 'text' || parameter?.quantity === 'material';
			if (!parameter) report(['rules', r, 'values', name], `“${kit.name}” has no parameter “${name}”`);
			else if (text !== (typeof value === 'string'))
				report(
					['rules', r, 'values', name],
					`“${parameter.label}” of “${kit.name}” wants ${text ? 'a text' : 'a number'}`
				);
			else if (parameter.quantity === 'material' && !project.materials.some((m) => m.id === value))
				report(['rules', r, 'values', name], `there is no material “${value}”`);
		}
	});
}
