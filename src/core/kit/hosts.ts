/** What a kit can sit on. */
export type HostKind = 'cell' | 'box' | 'edge' | 'node' | 'path' | 'bay';

/** The kind of host that a program is made for, and how many points it has. */
export interface HostShape {
	readonly kind: HostKind;
	/** Cells and boxes: corners of the outline. Edges 2, more along curves. Nodes: neighbours around them. Paths: points. Bays: their points, row by row. */
	readonly corners: number;
	/** A path that runs all around and meets itself. */
	readonly closed?: boolean;
	/** One cell, cut or dented, with holes of so many corners each. */
	readonly single?: { readonly holes: readonly number[] };
}

/** The hosts that a kit is run for, all of one shape. `h` is a row of the run. */
export interface HostColumns {
	/** By row: the element that it is, such as a cell of its face. */
	readonly ids: Uint32Array;
	/** By row: the element of the face that it belongs to, where `ids` are pieces within one. */
	readonly owners?: Uint32Array;
	/** By row: which of a node's edges the piece is for, counted from 1. */
	readonly spokes?: Uint32Array;
	/** By element: where its points start in `corners`. */
	readonly cornerStart: Uint32Array;
	/** Numbers of points. Nodes: the node itself, then its neighbours anticlockwise from outside. */
	readonly corners: Uint32Array;
	/** By element: 1 for a path that meets itself; none does when left out. */
	readonly closed?: Uint8Array;
	/** By point, mm, stride 3. */
	readonly position: Float64Array;
	/** By element: unit outward normal, stride 3; (0, 0, 0) for one without area. */
	readonly normal: Float64Array;
	/** By point: its own unit normal, stride 3; the element's where left out. */
	readonly pointNormal?: Float64Array;
	/** By point: where it is on the second layer, mm, stride 3. */
	readonly upper?: Float64Array;
	/** Values of parameters that differ from point to point, by the numbers of points. */
	readonly pointValues?: Readonly<Record<string, Float64Array>>;
	/** The single cell's holes, as numbers of points. */
	readonly holes?: readonly Uint32Array[];
	/** A reading by element; nothing when hosts do not have it. */
	reading(name: string): Float64Array | undefined;
	/** Unit ways of the other bars at an end (0 or 1) of an edge, away from the node; there are none where left out. */
	ways?(element: number, end: 0 | 1): readonly (readonly [number, number, number])[];
	/** Brings a point (mm) to the nearest one of the face itself; points stay where left out. */
	onFace?(point: Float64Array, offset: number): void;
}
