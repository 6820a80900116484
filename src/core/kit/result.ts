import type { Mesh } from './mesh.ts';
import type { KitProgram, Quantities } from './program.ts';
import type { PartStep } from './schema.ts';

/** Triangles over the points of the run, for every host. */
export interface PatternGeometry {
	readonly kind: 'pattern';
	/** Point numbers within a host's block. */
	readonly triangles: Uint16Array;
	/** mm, stride 3, `pointsPerHost` a host. */
	readonly points: Float64Array;
	readonly pointsPerHost: number;
	/** By host: 0 where it does not have the part; all have it when left out. */
	readonly present?: Uint8Array;
}

/** Equal bodies. */
export interface InstanceGeometry {
	readonly kind: 'instances';
	readonly mesh: Mesh;
	/** Columns x, y, z and origin of a 3 x 4 matrix, 12 a piece. */
	readonly transforms: Float64Array;
	/** By piece, a row of the result. */
	readonly rows: Uint32Array;
}

/** Bodies of their own. */
export interface LooseGeometry {
	readonly kind: 'loose';
	readonly positions: Float64Array;
	/** Point numbers within a piece. */
	readonly triangles: Uint32Array;
	/** First number of each piece in `positions` and `triangles`, and one more. */
	readonly positionStart: Uint32Array;
	readonly triangleStart: Uint32Array;
	readonly rows: Uint32Array;
}

export type Indices = Uint16Array | Uint32Array;

/** Plates of their own, of which the fronts alone are kept, each place once (see `plateMesh`). */
export interface PlateGeometry {
	readonly kind: 'plates';
	/** mm, stride 3: where the points of fronts are. */
	readonly places: Float64Array;
	/** By point of a front: its place within the piece. */
	readonly points: Indices;
	/** Of the fronts: point numbers within a piece. */
	readonly triangles: Indices;
	/** Around the outside, then around each opening, with the material on the left: how many points, and these. */
	readonly loops: Indices;
	/** First number of each piece in `places`, `points`, `triangles` and `loops`, and of one more; stride 4. */
	readonly starts: Uint32Array;
	/** From the back of each piece to its front, mm, stride 3; nothing for one without thickness. */
	readonly back: Float64Array;
	readonly rows: Uint32Array;
	/** Seen in the mirror that changes over east and west. */
	readonly mirrored: boolean;
}

/** Meshes fitted into hosts: the same triangles on other points. */
export interface FittedGeometry {
	readonly kind: 'fitted';
	readonly sets: readonly {
		readonly triangles: Uint32Array;
		readonly positions: Float64Array;
		readonly rows: Uint32Array;
	}[];
}

/** Round bars that are one body with all those that they meet; its skin is made when it is drawn. */
export interface JoinedGeometry {
	readonly kind: 'joined';
	/** Start and end of each bar, mm, 6 a bar. */
	readonly ends: Float64Array;
	/** By bar, mm. */
	readonly radius: Float64Array;
	/** By bar, a row of the result. */
	readonly rows: Uint32Array;
	/** How far bars flow into each other, as a share of the radius. */
	readonly softness: number;
	/** How far facets may lie within the round surface, mm. */
	readonly deviation: number;
}

export type PartGeometry =
	PatternGeometry | InstanceGeometry | LooseGeometry | PlateGeometry | FittedGeometry | JoinedGeometry;

export interface PartColumns extends Quantities {
	readonly step: PartStep;
	readonly geometry: PartGeometry;
}

/** Hosts that a step failed on. */
export interface Failure {
	readonly step: string;
	readonly reason: string;
	/** The elements of the face. */
	readonly hosts: Uint32Array;
}

export interface KitResult {
	readonly program: KitProgram;
	/** By row: the element of the face that the kit stands on; several rows for pieces. */
	readonly hosts: Uint32Array;
	/** By row: which of a node's edges the piece is for, counted from 1. */
	readonly spokes?: Uint32Array;
	/** mm, stride 3; `program.pointsPerHost` points a host. */
	readonly points: Float64Array;
	readonly parts: readonly PartColumns[];
	/** Results of inner steps, on pieces of these hosts. */
	readonly inner: readonly KitResult[];
	/** Hosts left out, by the step that failed on them, with those of inner steps. */
	readonly failures: readonly Failure[];
	/** How many hosts a parameter's formula was held back on. */
	readonly clamped: ReadonlyMap<string, number>;
	/** Values of formulas, by name and host. */
	readonly values: ReadonlyMap<string, Float64Array>;
}
