import { bytesOfArray, keepContent } from '../content.ts';
import { ZygasterError } from '../errors.ts';
import type { Point } from '../geometry/curve.ts';
import type { ImportedFace } from '../mass/imported.ts';
import { fitFace } from './fitFace.ts';
import { layOver } from './layOver.ts';
import { extractFaces, splitFaces, type Split } from './regions.ts';
import { LEAST_FACE_MM2 } from '../tolerances.ts';
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

/** A face of a piece, not yet laid. */
export interface FacePart {
	readonly id: string;
	readonly name: string;
	readonly mesh: TriangleMesh;
}

/** A face laid over, and what there is to tell of it. */
export interface LaidPart {
	readonly face: ImportedFace;
	readonly report: FaceReport;
}

export interface FaceReport {
	readonly id: string;
	readonly name: string;
	readonly areaM2: number;
	/** mm; none on faces that close on themselves. */
	readonly corners: readonly (readonly [x: number, y: number, z: number])[];
	readonly stretch: number;
	readonly deviationMm: number;
	/** Holes, which become openings. */
	readonly holes: number;
	readonly closed: boolean;
}

export interface ImportReport {
	readonly faces: readonly FaceReport[];
	readonly repairs: Repairs;
	/** Faces that could not be laid over, and why. */
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
	if (size < SMALL)
		return `The body is only ${metres(size)} long. If the file is in metres, it should be ${metres(size * 1000)}: choose m.`;
	if (size > LARGE)
		return `The body is ${metres(size)} long. If the file is in millimetres, it should be ${metres(size / 1000)}: choose mm.`;
	return undefined;
}

export const MOST_FACES = 200;

/** Parts pieces into faces, the largest of each piece first. Throws a ZygasterError with code `mesh` for too many. */
export function partPieces(pieces: readonly PreparedPiece[], split: Split): FacePart[] {
	const parts = pieces.flatMap(({ mesh, name }) => {
		const { region, count } = splitFaces(mesh, split);
		if (count > MOST_FACES)
			throw new ZygasterError(
				'mesh',
				`“${name}” falls into ${count} faces; at most ${MOST_FACES} can be brought in. A larger crease angle or fewer pieces would be right.`
			);
		return extractFaces(mesh, region, count).map((face, k) => ({
			name: count === 1 ? name : `${name} ${k + 1}`,
			mesh: face
		}));
	});
	if (parts.length > MOST_FACES)
		throw new ZygasterError(
			'mesh',
			`There are ${parts.length} faces; at most ${MOST_FACES} can be brought in. Fewer pieces would be right.`
		);
	return parts.map((part, k) => ({ id: `face-${k + 1}`, ...part }));
}

/** Lays one face over. `corners` are indices into its longest border. Throws a ZygasterError as `layOver` does. */
export function layPart({ id, name, mesh }: FacePart, corners?: readonly number[]): LaidPart {
	const laid = layOver(mesh, corners);
	const { columns, rows, closedAcross, points, meshArea, stretch, deviation } = fitFace(laid, mesh);
	if (!(meshArea > LEAST_FACE_MM2) || !points.every(Number.isFinite))
		throw new ZygasterError(
			'mesh',
			`A face of ${meshArea.toPrecision(2)} mm² is too small to be divided; right would be at least ${LEAST_FACE_MM2} mm².`
		);
	const p = laid.mesh.positions;
	return {
		face: {
			id,
			name: name.slice(0, 120),
			columns,
			rows,
			closedAcross,
			points: keepContent(bytesOfArray(points)),
			meshArea,
			stretch,
			deviation,
			holes: laid.holes.map(thinned)
		},
		report: {
			id,
			name,
			areaM2: meshArea / 1e6,
			corners: (laid.border?.corners ?? []).map((c) => {
				const o = laid.border!.loop.vertices[c]! * 3;
				return [p[o]!, p[o + 1]!, p[o + 2]!];
			}),
			stretch,
			deviationMm: deviation,
			holes: laid.holes.length,
			closed: closedAcross
		}
	};
}

/**
 * Parts pieces and lays every face over. A face that cannot be laid is told and left out; throws a
 * ZygasterError with code `mesh` when none is left.
 */
export function layPieces(
	pieces: readonly PreparedPiece[],
	split: Split
): { faces: ImportedFace[]; report: ImportReport } {
	const laid: LaidPart[] = [];
	const left: string[] = [];
	for (const part of partPieces(pieces, split)) {
		try {
			laid.push(layPart(part));
		} catch (cause) {
			if (!(cause instanceof ZygasterError)) throw cause;
			left.push(`${part.name}: ${cause.message}`);
		}
	}
	if (laid.length === 0) throw new ZygasterError('mesh', `No face could be laid over.\n${left.join('\n')}`);
	return {
		faces: laid.map((l) => l.face),
		report: { faces: laid.map((l) => l.report), repairs: addRepairs(pieces), left, hint: sizeHint(pieces) }
	};
}

/** Points that a hole keeps at most. */
const MOST_HOLE_POINTS = 200;

function thinned(points: readonly Point[]): [number, number, number][] {
	const every = Math.ceil(points.length / MOST_HOLE_POINTS);
	return points.filter((_, k) => k % every === 0).map(([x, y, z]) => [x, y, z]);
}

/** What was mended on all pieces together. */
export const addRepairs = (pieces: readonly PreparedPiece[]): Repairs => {
	const sum = (name: keyof Repairs) => pieces.reduce((n, p) => n + p.repairs[name], 0);
	return {
		welded: sum('welded'),
		flat: sum('flat'),
		doubled: sum('doubled'),
		flipped: sum('flipped'),
		tangled: sum('tangled')
	};
};
