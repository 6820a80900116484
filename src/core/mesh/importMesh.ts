import { base64 } from '@scure/base';
import { ZygasterError } from '../errors.ts';
import type { ImportedFace } from '../mass/imported.ts';
import { fitFace } from './fitFace.ts';
import { layOver } from './layOver.ts';
import { extractFace, splitFaces, type Split } from './regions.ts';
import { repairMesh, sizeOf, type Repairs } from './repair.ts';
import type { TriangleMesh } from './triangleMesh.ts';

/** A piece of a file: one body, or one of its shells. */
export interface Piece {
	readonly name: string;
	/** In the file's own unit, z up. */
	readonly mesh: TriangleMesh;
}

/** What was read from a file. */
export interface FileContent {
	readonly pieces: readonly Piece[];
	/** mm of the file's unit, where the file tells. */
	readonly mm: number | undefined;
}

export interface PreparedPiece {
	readonly name: string;
	/** mm */
	readonly mesh: TriangleMesh;
	readonly repairs: Repairs;
}

export interface ImportReport {
	readonly faces: readonly {
		readonly id: string;
		readonly name: string;
		readonly areaM2: number;
		readonly corners: readonly (readonly [x: number, y: number, z: number])[];
		readonly stretch: number;
		readonly deviationMm: number;
		readonly covered: number;
		readonly closed: boolean;
	}[];
	readonly repairs: Repairs;
	/** Faces that could not be laid over, or are too small to be clad, and why. */
	readonly left: readonly string[];
	readonly hint: string | undefined;
}

/** Brings a piece to mm and mends it. Throws a ZygasterError with code `mesh` as `repairMesh` does. */
export function preparePiece({ name, mesh }: Piece, mm: number): PreparedPiece {
	const scaled = { ...mesh, positions: mesh.positions.map((x) => x * mm) };
	return { name, ...repairMesh(scaled) };
}

/** Bodies outside these sizes are hardly buildings, mm. */
const SMALL = 500;
const LARGE = 2_000_000;

/** A word of warning where a body is a thousand times too large or too small. */
export function sizeHint(pieces: readonly PreparedPiece[]): string | undefined {
	const size = Math.max(...pieces.map((p) => sizeOf(p.mesh.positions)));
	const metres = (mm: number) => `${Number((mm / 1000).toPrecision(3))} m`;
	if (size < SMALL) return `The body is only ${metres(size)} long. If the file is in metres, it should be ${metres(size * 1000)}: choose m.`;
	if (size > LARGE) return `The body is ${metres(size)} long. If the file is in millimetres, it should be ${metres(size / 1000)}: choose mm.`;
	return undefined;
}

/** Faces smaller than this share of the whole are left out: edges of plates, chamfers. */
const LEAST_SHARE = 1e-4;
export const MOST_FACES = 200;

/**
 * Parts pieces into faces and lays each over. A face that cannot be laid is told and left out; throws a
 * ZygasterError with code `mesh` when none is left. `corners` are vertex indices of a face's border by its
 * id, where somebody has moved them.
 */
export function layPieces(
	pieces: readonly PreparedPiece[],
	split: Split,
	corners: Readonly<Record<string, readonly number[]>> = {},
	progress?: (share: number, what: string) => void
): { faces: ImportedFace[]; report: ImportReport } {
	const found = pieces.flatMap(({ mesh, name }) => {
		const { region, count } = splitFaces(mesh, split);
		if (count > MOST_FACES * 10)
			throw new ZygasterError('mesh', `“${name}” falls into ${count} faces; a larger crease angle would join them.`);
		return Array.from({ length: count }, (_, k) => ({ name, mesh: extractFace(mesh, region, k) }));
	});
	const total = found.reduce((sum, f) => sum + f.mesh.triangles.length, 0);
	const faces: ImportedFace[] = [];
	const reported: ImportReport['faces'][number][] = [];
	const left: string[] = [];
	let done = 0;
	found.forEach(({ name, mesh }, k) => {
		const id = `face-${k + 1}`;
		const label = found.length === 1 ? name : `${name} ${k + 1}`;
		progress?.(done / total, label);
		done += mesh.triangles.length;
		if (faces.length >= MOST_FACES || mesh.triangles.length < LEAST_SHARE * total * 0.1) {
			left.push(`${label}: too small or one too many`);
			return;
		}
		try {
			const laid = layOver(mesh, corners[id]);
			const { columns, rows, closedAcross, points, meshArea, stretch, deviation } = fitFace(laid, mesh);
			faces.push({ id, name: label.slice(0, 120), columns, rows, closedAcross, points: encode(points), meshArea, stretch, deviation });
			const p = laid.mesh.positions;
			reported.push({
				id,
				name: label,
				areaM2: meshArea / 1e6,
				corners: (laid.border?.corners ?? []).map((c) => {
					const o = laid.border!.loop.vertices[c]! * 3;
					return [p[o]!, p[o + 1]!, p[o + 2]!];
				}),
				stretch,
				deviationMm: deviation,
				covered: laid.covered,
				closed: closedAcross
			});
		} catch (cause) {
			if (!(cause instanceof ZygasterError)) throw cause;
			left.push(`${label}: ${cause.message}`);
		}
	});
	if (faces.length === 0) throw new ZygasterError('mesh', `No face could be laid over.\n${left.join('\n')}`);
	return { faces, report: { faces: reported, repairs: addRepairs(pieces), left, hint: sizeHint(pieces) } };
}

const encode = (points: Float64Array) => base64.encode(new Uint8Array(points.buffer, points.byteOffset, points.byteLength));

const addRepairs = (pieces: readonly PreparedPiece[]): Repairs => {
	const sum = (name: keyof Repairs) => pieces.reduce((n, p) => n + p.repairs[name], 0);
	return { welded: sum('welded'), flat: sum('flat'), doubled: sum('doubled'), flipped: sum('flipped'), tangled: sum('tangled') };
};
