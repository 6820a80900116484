import { surfaceArea } from '../../geometry/area.ts';
import type { FaceModel } from '../../project/faceResult.ts';
import type { Model } from '../../project/pipeline.ts';
import { placedParts } from '../../schedule/parts.ts';
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

export interface ModelSummary {
	readonly project: string;
	readonly faces: readonly FaceSummary[];
	readonly parts: readonly PartSummary[];
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
		stageTimesMs: model.stageTimes,
		warnings: model.warnings.map(({ stage, face, message, cells }) => {
			const owner = model.faces.find((f) => f.key === face);
			const marks = [...(cells?.subarray(0, MOST_MARKS) ?? [])].map((c) => cellMark({ ...owner!, ...owner!.cells }, c));
			return { stage, face, message, marks };
		})
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
		if (sum(pieces) === 0) continue;
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
