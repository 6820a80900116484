import { surfaceArea } from '../../geometry/area.ts';
import type { FaceModel } from '../../project/faceResult.ts';
import type { Model } from '../../project/pipeline.ts';
import { ruleName } from '../../project/ruleNames.ts';
import { drawnLengths } from '../../placement/paths.ts';
import { placedParts } from '../../schedule/parts.ts';
import { typesOf } from '../../schedule/types/pieceTypes.ts';
import type { Stage } from '../../project/run.ts';
import type { Project } from '../../project/schema.ts';
import { cutCells, type CellTable } from '../../tiling/cells.ts';
import { cellMark } from '../../tiling/marks.ts';

export interface FaceSummary {
	readonly key: string;
	readonly name: string;
	readonly mark: string;
	/** True area of the face, and of its cells' outlines added up. */
	readonly areaM2: number;
	readonly cellAreaM2: number;
	readonly cells: { readonly whole: number; readonly cut: number; readonly lost: number };
	/** Cells that carry a kit. */
	readonly panels: number;
}

export interface PartSummary {
	readonly kit: string;
	readonly part: string;
	readonly role: string;
	readonly material: string;
	readonly count: number;
	readonly areaM2: number;
	readonly lengthM: number;
	readonly massKg: number;
}

export interface RuleSummary {
	readonly id: string;
	readonly name: string;
	readonly set: string;
	readonly hosts: number;
	/** Nothing where the hosts are left open. */
	readonly kit: string | null;
}

export interface ModelSummary {
	readonly project: string;
	readonly faces: readonly FaceSummary[];
	readonly parts: readonly PartSummary[];
	/** In order: hosts that each rule takes, over all faces. */
	readonly rules: readonly RuleSummary[];
	/** Hosts that no rule takes, by set, on faces where the set has rules. */
	readonly unassigned: Readonly<Record<string, number>>;
	/** Hosts that are set by hand, and such as are not there now. */
	readonly overrides: { readonly used: number; readonly waiting: number };
	/** Values that were held at their parameters' limits, host by host. */
	readonly clamped: number;
	/** Paths that are drawn, their copies each by itself: id of what they are drawn by, and metres from point to point. */
	readonly paths: readonly {
		readonly id: string;
		readonly name: string;
		readonly mark: string;
		readonly points: number;
		readonly lengthM: number;
	}[];
	/** How many types of pieces there are, by role: alike within the limits of the role. */
	readonly types: Readonly<Record<string, number>>;
	readonly stageTimesMs: Readonly<Record<Stage, number>>;
	readonly warnings: readonly {
		readonly stage: Stage;
		readonly face: string;
		readonly message: string;
		/** Marks of the first cells concerned. */
		readonly marks: readonly string[];
	}[];
}

/** Marks that a warning lists at most. */
const MOST_MARKS = 20;

/** What a model holds, in numbers; metric, for programs and for the handover. */
export function summarise(project: Project, model: Model): ModelSummary {
	return {
		project: project.name,
		faces: model.faces.map(summariseFace),
		parts: summariseParts(model),
		...summariseRules(project, model),
		paths: model.faces.flatMap((face) => summarisePaths(project, face)),
		types: countTypes(project, model),
		stageTimesMs: model.stageTimes,
		warnings: model.warnings.map(({ stage, face, message, cells }) => {
			const owner = model.faces.find((f) => f.key === face);
			const marks = [...(cells?.subarray(0, MOST_MARKS) ?? [])].map((c) => cellMark({ ...owner!, ...owner!.cells }, c));
			return { stage, face, message, marks };
		})
	};
}

function countTypes(project: Project, { faces }: Model): ModelSummary['types'] {
	const counts: Record<string, number> = {};
	for (const { role } of typesOf(faces, project.types).types) counts[role] = (counts[role] ?? 0) + 1;
	return counts;
}

function summarisePaths({ paths }: Project, face: FaceModel): ModelSummary['paths'] {
	const { ids, marks, start } = face.drawn;
	const lengths = drawnLengths(face.drawn);
	return ids.map((id, k) => ({
		id,
		name: paths.find((p) => p.id === id)!.name,
		mark: marks[k]!,
		points: start[k + 1]! - start[k]!,
		lengthM: lengths[k]! / 1000
	}));
}

function summariseRules(
	project: Project,
	{ faces }: Model
): Pick<ModelSummary, 'rules' | 'unassigned' | 'overrides' | 'clamped'> {
	const assigned = faces.flatMap((f) => f.assigned.sets);
	const taken = new Map<string, number>();
	for (const { rules, taken: counts } of assigned)
		rules.forEach((id, k) => taken.set(id, (taken.get(id) ?? 0) + counts[k]!));
	return {
		rules: project.sets.flatMap((set) =>
			project.rules
				.filter((r) => r.set === set.id)
				.map((rule) => ({
					id: rule.id,
					name: ruleName(rule, project, set),
					set: set.id,
					hosts: taken.get(rule.id) ?? 0,
					kit: rule.kit
				}))
		),
		unassigned: Object.fromEntries(
			project.sets.map(({ id }) => [id, assigned.filter((a) => a.set === id).reduce((n, a) => n + a.unassigned, 0)])
		),
		overrides: {
			used: faces.reduce((n, f) => n + f.assigned.overrides.used, 0),
			waiting: faces.reduce((n, f) => n + f.assigned.overrides.waiting, 0)
		},
		clamped: faces.reduce((n, f) => n + f.clamped, 0)
	};
}

function summariseFace(face: FaceModel): FaceSummary {
	return {
		key: face.key,
		name: face.name,
		mark: face.mark,
		areaM2: surfaceArea(face.surface) / 1e6,
		cellAreaM2: sum(face.readings.columns.area) / 1e6,
		cells: countCells(face.cells),
		panels: face.schedule.tables.panels.count
	};
}

/** Whole and cut cells (a piece is one), and fields of which nothing is left. */
export function countCells(cells: Pick<CellTable, 'count' | 'trim' | 'part'>): {
	whole: number;
	cut: number;
	lost: number;
} {
	const { count, trim } = cells;
	const cut = cutCells(cells)?.reduce((n, c) => n + c, 0) ?? 0;
	return { whole: count - cut, cut, lost: trim ? trim.lost.length / 2 : 0 };
}

function summariseParts(model: Model): PartSummary[] {
	const parts = new Map<string, PartSummary>();
	for (const { placement, part } of model.faces.flatMap(placedParts)) {
		const { name, label, role, material, area, length, volume, pieces, density } = part;
		if (!part.scheduled || sum(pieces) === 0) continue;
		const key = `${placement.kit.id}/${name}/${material}`;
		const before = parts.get(key);
		parts.set(key, {
			kit: placement.kit.name,
			part: label ? `${name} (${label})` : name,
			role,
			material,
			count: (before?.count ?? 0) + sum(pieces),
			areaM2: (before?.areaM2 ?? 0) + sum(area) / 1e6,
			lengthM: (before?.lengthM ?? 0) + sum(length) / 1e3,
			massKg: (before?.massKg ?? 0) + sum(volume) * density
		});
	}
	return [...parts.values()];
}

function sum(values: Float64Array): number {
	let total = 0;
	for (const value of values) total += value;
	return total;
}
